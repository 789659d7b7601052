import fc from 'fast-check';
import { expect, test } from 'vitest';
import { calledOtherwise } from './calledOtherwise';

test.each([
  [
    'a',
    'a stands out from the other members with {actual of a}',
    'Zed stands out from the other members with {actual of a}',
  ],
  [
    'a',
    'b has taken first place in a league from a, 2 places up',
    'b has taken first place in a league from Zed, 2 places up',
  ],
  ['An', 'An lacks {gap of An}; Anna makes up for it', 'Zed lacks {gap of An}; Anna makes up for it'],
  ['A.B', 'A.B is furthest behind {benchmark}', 'Zed is furthest behind {benchmark}'],
  [
    'An',
    'As a whole it is level, but Anna lacks {gap of Anna}; against that, An is {gap of An} ahead',
    'As a whole it is level, but Anna lacks {gap of Anna}; against that, Zed is {gap of An} ahead',
  ],
  ['An', 'Of the 3 highest of 12, An is furthest behind', 'Of the 3 highest of 12, Zed is furthest behind'],
  ['Jean-Luc/B', 'it is level, but Jean-Luc/B lacks {gap}', 'it is level, but Zed lacks {gap}'],
  ['An', 'We think that An, not Anna, will manage; An knows', 'We think that Zed, not Anna, will manage; Zed knows'],
])('%s in “%s”', (member, sentence, wanted) => expect(calledOtherwise(sentence, member, 'Zed')).toBe(wanted));

test('any name can be called anything, and back', () =>
  fc.assert(
    fc.property(
      fc.string({ minLength: 1 }).filter((name) => !/[{}|]/.test(name)),
      (name) => {
        const sentence = (of: string) => `${of} is furthest behind {benchmark}: {gap}`;
        expect(calledOtherwise(sentence(name), name, 'Zed')).toBe(sentence('Zed'));
        expect(calledOtherwise(sentence('Zed'), 'Zed', name)).toBe(sentence(name));
      },
    ),
  ));
