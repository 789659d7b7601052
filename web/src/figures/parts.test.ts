import { describe, expect, test } from 'vitest';
import { partsOfBrief, readBrief, writeBrief, type Brief, type Vocabulary } from '@bold-ruler/core/brief';
import type { Offered } from '@bold-ruler/core/desk';
import { optionsFor, PARTS, without } from './parts';

const vocabulary: Vocabulary = {
  measures: ['net sales', 'margin'],
  fields: ['territory', 'channel'],
  benchmarks: ['plan', 'last year'],
  highlights: [],
  rulers: [],
  members: () => null,
};
const offered: Offered = {
  measures: vocabulary.measures,
  fields: vocabulary.fields,
  benchmarks: vocabulary.benchmarks,
  forms: [{ form: 'bullet', purpose: 'how far each is from its benchmark' }],
  rulers: [],
  highlights: [],
  fiscalYears: [2026, 2025, 2024],
  first: null,
};
const FULL =
  'net sales by territory each month during fiscal 2026 to date against plan as bullet, keep 5 highest, sorted by gap up, only channel is Web';
const read = (text: string): Brief => readBrief(text, vocabulary);
const write = (brief: Brief): string => writeBrief(brief, vocabulary);
const options = (part: Parameters<typeof optionsFor>[0], text = FULL) =>
  optionsFor(part, read(text), partsOfBrief(read(text)), offered);
const pick = (part: Parameters<typeof optionsFor>[0], id: string, text = FULL) =>
  write(options(part, text).find(({ choice }) => choice.id === id)!.brief);

describe('what a part of the sentence offers', () => {
  test('every option leads to a brief that can be written and read back', () => {
    for (const part of PARTS) {
      if (part === 'only') continue;
      for (const { brief } of options(part)) expect(read(write(brief))).toEqual(brief);
    }
  });
  test('the choice that stands in the sentence is the one that is marked', () => {
    const chosen = (part: Parameters<typeof optionsFor>[0]) =>
      options(part)
        .filter(({ choice }) => choice.chosen)
        .map(({ choice }) => choice.id);
    expect([
      chosen('views'),
      chosen('by'),
      chosen('each'),
      chosen('during'),
      chosen('against'),
      chosen('keep'),
    ]).toEqual([['net sales'], ['territory'], ['month'], ['fiscal 2026 to date'], ['plan'], ['5 highest']]);
  });
  test('one press changes one thing', () => {
    expect(pick('views', 'margin')).toBe(FULL.replace('net sales', 'margin'));
    expect(pick('by', 'territory and channel')).toBe(FULL.replace('by territory', 'by territory, channel'));
    expect(pick('during', 'fiscal 2025')).toBe(FULL.replace('fiscal 2026 to date', 'fiscal 2025'));
    expect(pick('keep', '5 highest and the rest')).toBe(FULL.replace('5 highest', '5 highest and the rest'));
    expect(pick('against', 'none')).toBe(FULL.replace(' against plan', ''));
  });
  test('nothing is offered to be taken away where nothing is', () => {
    expect(options('against', 'net sales').map(({ choice }) => choice.id)).toEqual(['plan', 'last year']);
    expect(options('by', 'net sales').map(({ choice }) => choice.id)).toEqual(['territory', 'channel']);
  });
});

test('a sentence without a part keeps all others', () => {
  const parts = partsOfBrief(read(FULL));
  for (const part of PARTS) {
    if (part === 'views') continue;
    expect(partsOfBrief(without(part, read(FULL)))).toEqual({ ...parts, [part]: null });
  }
});
