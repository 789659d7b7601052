/** Where a finding's sentence names its members: at its beginning, or behind one of these words, before one of those. */
const IN_FINDINGS = [
  '(?:^|(?<=\\bbut |; |\\bfrom |\\bthat, |\\bof \\d+, ))',
  '(?= (?:(?:is furthest|lacks|makes up|has taken|stands out)\\b|is $)|,)',
] as const;
/** A word by itself. */
const AS_WORD = ['(?<![\\p{L}\\p{N}])', '(?![\\p{L}\\p{N}])'] as const;

/**
 * A claim's sentence with a member called otherwise, outside its braces: where findings name their members. In a sentence that its writer
 * worded anew it is every whole word of that name.
 */
export function calledOtherwise(sentence: string, member: string, name: string): string {
  const escaped = member.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');
  const standing = ([before, after]: readonly [string, string]) => new RegExp(`${before}${escaped}${after}`, 'gu');
  const places = standing(IN_FINDINGS).test(sentence) ? standing(IN_FINDINGS) : standing(AS_WORD);
  return sentence
    .split(/(\{[^{}]*\})/)
    .map((part) => (part.startsWith('{') ? part : part.replace(places, () => name)))
    .join('');
}
