// A rule of our own for oxlint.

/** Whether words give a class that pales what it stands on, as “opacity-80” does. */
const isPaled = (words) => /(^|\s)opacity-\d/.test(words);

/**
 * Words that are paled by the opacity of what they stand in are no longer told from their ground; only what is disabled
 * may be pale (`disabled:opacity-…`).
 */
const noPaleWords = {
  create(context) {
    const look = (node, words) => {
      if (typeof words === 'string' && isPaled(words))
        context.report({
          node,
          message: 'Opacity makes words too pale to be read: give them an ink, such as text-quiet.',
        });
    };
    return {
      Literal: (node) => look(node, node.value),
      TemplateElement: (node) => look(node, node.value.raw),
    };
  },
};

export default { meta: { name: 'own' }, rules: { 'no-pale-words': noPaleWords } };
