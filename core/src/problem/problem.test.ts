import { describe, expect, test } from 'vitest';
import { counted, didYouMean, isProblem, listed, nearest, Problem, received, sent, sentProblem, someOf } from '.';

describe('a problem', () => {
  test('is one line: where, what, and what to do', () => {
    expect(new Problem('x', 'there is no shop').message).toBe('there is no shop.');
    expect(new Problem('x', 'it is cut off', { in: 'sales.csv', line: 7 }).message).toBe(
      'sales.csv line 7: it is cut off.',
    );
    expect(new Problem('x', 'no', { in: 'brief' }, 'write yes').message).toBe('brief: no — write yes.');
    expect(new Problem('x', 'no', undefined, 'did you mean “yes”?').message).toBe('no — did you mean “yes”?');
  });
  test('is placed inside something larger, and is what it was', () => {
    const fixes = [{ text: 'net', from: 0, to: 3 }];
    const inner = new Problem('unknown', 'no “nte”', { in: 'expression', span: [0, 3] }, 'write net', fixes);
    const outer = inner.at({ in: 'measure “net”' });
    expect([outer.code, outer.place, outer.remedy, outer.fixes]).toEqual([
      'unknown',
      { in: 'measure “net”', span: [0, 3] },
      'write net',
      fixes,
    ]);
    expect([isProblem(outer), isProblem(new Error('x')), isProblem(null)]).toEqual([true, false, false]);
  });
});

describe('a problem on its way from a worker', () => {
  const problem = new Problem('code', 'what', { in: 'there', line: 2 }, 'do this', [{ text: 'a', from: 0, to: 1 }]);
  test('arrives as it was', async () => {
    const answer = await sent(() => {
      throw problem;
    });
    expect(structuredClone(answer)).toEqual(answer);
    expect(() => received(answer)).toThrow(problem.message);
    try {
      received(answer);
    } catch (error) {
      expect(isProblem(error) && [error.code, error.place, error.remedy, error.fixes]).toEqual([
        'code',
        problem.place,
        'do this',
        problem.fixes,
      ]);
    }
  });
  test('that is none of ours says so, and an answer is an answer', async () => {
    expect(sentProblem(new TypeError('x is undefined'))).toMatchObject({
      code: 'unforeseen',
      message: 'something unforeseen went wrong: x is undefined',
    });
    expect(sentProblem('only a word').sentence).toBe('only a word');
    expect(received(await sent(() => Promise.resolve(7)))).toBe(7);
    expect(received(await sent(() => null))).toBeNull();
  });
});

describe('the closest names', () => {
  const known = ['net sales', 'net', 'margin', 'margin rate', 'returned'];
  test.each([
    ['ne', ['net', 'net sales', 'returned']],
    ['nte', ['net']],
    ['margni', ['margin']],
    ['rate', ['margin rate']],
    ['MARGIN', ['margin', 'margin rate']],
    ['', ['net sales', 'net', 'margin']],
    ['something else', []],
  ])('to “%s” are %o', (word, close) => expect(nearest(word, known)).toEqual(close));
  test('are offered, or else what there is', () => {
    expect(didYouMean('nte', known, 'measure')).toBe('did you mean “net”?');
    expect(didYouMean('xyzzy', ['a', 'b'], 'measure')).toBe('known measures: “a”, “b”');
    expect(didYouMean('xyzzy', [], 'measure')).toBe('there is no measure yet');
    const many = Array.from({ length: 9 }, (_, i) => `name ${i}`);
    expect(didYouMean('xyzzy', many, 'figure')).toMatch(/^known figures: “name 0”.*“name 7”, …$/);
  });
});

test('words are joined and counted as people do', () => {
  expect([counted(1, 'row'), counted(0, 'row'), counted(1200, 'row'), counted(2, 'company', 'companies')]).toEqual([
    '1 row',
    '0 rows',
    '1,200 rows',
    '2 companies',
  ]);
  expect([listed([]), listed(['a']), listed(['a', 'b']), listed(['a', 'b', 'c'], 'and')]).toEqual([
    '',
    'a',
    'a or b',
    'a, b and c',
  ]);
  expect([someOf(['a', 'b', 'c']), someOf(['a', 'b', 'c', 'd', 'e'])]).toEqual(['a, b and c', 'a, b, c and 2 more']);
});
