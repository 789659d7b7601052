import { inkFault, INKS } from '../../highlight';
import type { LevelCheck } from '../level';

export const inks: LevelCheck = {
  code: 'hard-to-see',
  why: 'a reader who cannot tell two inks apart, or cannot read one, is told nothing',
  run: ({ report }) =>
    report.highlights.flatMap((highlight) => {
      const { name, rules } = highlight;
      return rules.flatMap(({ id, encode: { ink } }) => {
        if (!ink || INKS.some((own) => own.ink === ink)) return [];
        const others = rules.flatMap((rule) => (rule.id !== id && rule.encode.ink ? [rule.encode.ink] : []));
        const fault = inkFault(ink, others);
        if (!fault) return [];
        const { instead } = fault;
        return [
          {
            severity: 'warning',
            about: { kind: 'highlight', id: name },
            text: `rule “${id}” of “${name}”: ${fault.sentence}`,
            ...(instead === null
              ? {}
              : {
                  repair: {
                    name: `Take ${instead} instead`,
                    edit: {
                      edit: 'change-highlight',
                      highlight: {
                        ...highlight,
                        rules: rules.map((rule) =>
                          rule.id === id ? { ...rule, encode: { ...rule.encode, ink: instead } } : rule,
                        ),
                      },
                    },
                  },
                }),
          },
        ];
      });
    }),
};
