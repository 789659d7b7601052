import { SELECTIONS, writeView, type Brief, type BriefParts, type SortKey, type View } from '@bold-ruler/core/brief';
import { GRAINS, type PeriodWords } from '@bold-ruler/core/calendar';
import type { Choice } from '@/ui/ChoiceCommand';
import type { Offered } from '@bold-ruler/core/desk';

/** The parts of the sentence that can be pressed, in the order in which they stand. */
export const PARTS = ['views', 'by', 'each', 'during', 'against', 'as', 'keep', 'sorted', 'only', 'lit', 'on'] as const;
export type Part = (typeof PARTS)[number];

/** The words before a part. */
export const OPENING: Record<Part, string> = {
  views: '',
  by: 'by',
  each: 'each',
  during: 'during',
  against: 'against',
  as: 'as',
  keep: 'keep',
  sorted: 'sorted by',
  only: 'only',
  lit: 'lit by',
  on: 'on',
};

/** What a popover says above its list. */
export const ASK: Record<Part, string> = {
  views: 'Which measure',
  by: 'Broken down by',
  each: 'For each step in time',
  during: 'During which period',
  against: 'Held against',
  as: 'Drawn as',
  keep: 'Which to keep, such as 7 lowest',
  sorted: 'In which order',
  only: 'Only rows where',
  lit: 'Lit by which highlight',
  on: 'On which shared ruler',
};

const SORTS: readonly (readonly [SortKey, 'up' | 'down', string])[] = [
  ['value', 'down', 'largest value first'],
  ['value', 'up', 'smallest value first'],
  ['gap percent', 'down', 'best gap % first'],
  ['gap percent', 'up', 'worst gap % first'],
  ['gap', 'down', 'largest gap first'],
  ['gap', 'up', 'smallest gap first'],
  ['benchmark', 'down', 'largest benchmark first'],
  ['name', 'up', 'by name'],
];

const NONE = 'none';

interface Option {
  readonly choice: Choice;
  readonly brief: Brief;
}

const sameView = (a: View, b: View) => writeView(a) === writeView(b);

/** What a part can be, each with the brief it leads to. */
export function optionsFor(part: Exclude<Part, 'only'>, brief: Brief, parts: BriefParts, offered: Offered): Option[] {
  const option = (id: string, change: Partial<Brief>, chosen: boolean, detail?: string): Option => ({
    choice: { id, text: id, chosen, ...(detail ? { detail } : {}) },
    brief: { ...brief, ...change },
  });
  const without = (change: Partial<Brief>, text: string, isSet: boolean): Option[] =>
    isSet ? [{ choice: { id: NONE, text }, brief: { ...brief, ...change } }] : [];
  switch (part) {
    case 'views': {
      const [view, ...rest] = brief.views;
      const { measure } = view!;
      const seen = (text: string, next: View) => option(text, { views: [next, ...rest] }, sameView(view!, next));
      const others = offered.measures.filter((name) => !brief.views.some((one) => one.measure === name));
      return [
        ...offered.measures.map((name) =>
          option(name, { views: [{ ...view!, measure: name }, ...rest] }, measure === name && view!.kind === 'plain'),
        ),
        ...(view!.kind === 'plain' ? [] : [seen(`${measure} as it is`, { kind: 'plain', measure })]),
        seen(`cumulative ${measure}`, { kind: 'cumulative', measure }),
        seen(`share of ${measure}`, { kind: 'share', measure }),
        seen(`rank of ${measure}`, { kind: 'rank', measure }),
        ...(brief.grain
          ? [
              seen(`change in ${measure}`, { kind: 'change', measure }),
              seen(`smoothed 3 ${measure}`, { kind: 'smoothed', steps: 3, measure }),
            ]
          : []),
        ...others.map((name) =>
          option(`and ${name}`, { views: [...brief.views, { kind: 'plain', measure: name }] }, false),
        ),
        ...rest.map((one, i) =>
          option(`without ${writeView(one)}`, { views: brief.views.filter((_, at) => at !== i + 1) }, false),
        ),
      ];
    }
    case 'by':
      return [
        ...without({ by: [] }, 'not broken down', brief.by.length > 0),
        ...offered.fields.map((field) => {
          const has = brief.by.includes(field);
          // Pressing one that is there takes it away; two together stand below.
          const by = has ? brief.by.filter((f) => f !== field) : [field];
          return option(field, { by }, has);
        }),
        ...(brief.by.length === 1
          ? offered.fields
              .filter((field) => !brief.by.includes(field))
              .map((field) => option(`${brief.by[0]} and ${field}`, { by: [brief.by[0]!, field] }, false))
          : []),
      ];
    case 'each':
      return [
        ...without({ grain: null }, 'not over time', brief.grain !== null),
        ...GRAINS.map((grain) => option(grain, { grain }, brief.grain === grain)),
      ];
    case 'during':
      return periods(offered.fiscalYears).map(([text, period]) =>
        option(text, { period }, (parts.during ?? 'all time') === text),
      );
    case 'against':
      return [
        ...without({ against: null }, 'nothing', brief.against !== null),
        ...offered.benchmarks.map((name) => option(name, { against: name }, brief.against === name)),
      ];
    case 'as':
      // Each form comes with what it changes of the brief, so that what is pressed is drawn.
      return offered.forms.map(({ form, purpose, brief: mended, change }) =>
        option(form, mended ?? { form: form as Brief['form'] }, brief.form === form, change ? change : purpose),
      );
    case 'keep':
      return [
        ...without({ keep: null }, 'all of them', brief.keep !== null),
        ...SELECTIONS.map((order) =>
          option(
            `${brief.keep?.count ?? 5} ${order}`,
            { keep: { count: brief.keep?.count ?? 5, order, rest: false } },
            brief.keep?.order === order && !brief.keep.rest,
          ),
        ),
        ...(brief.keep
          ? [
              option(
                `${brief.keep.count} ${brief.keep.order} and the rest`,
                { keep: { ...brief.keep, rest: true } },
                brief.keep.rest,
              ),
            ]
          : []),
      ];
    case 'lit':
      return [
        ...without({ lit: null }, 'standing, as the aim says', brief.lit !== null),
        ...offered.highlights.map((name) => option(name, { lit: name }, brief.lit === name)),
      ];
    case 'on':
      return [
        ...without({ ruler: null }, 'a ruler of its own', brief.ruler !== null),
        ...offered.rulers.map((id) => option(id, { ruler: id }, brief.ruler === id)),
      ];
    case 'sorted':
      return [
        ...without({ sort: null }, 'in their own order', brief.sort !== null),
        ...SORTS.map(([key, direction, text]) =>
          option(text, { sort: { key, direction } }, brief.sort?.key === key && brief.sort.direction === direction),
        ),
      ];
  }
}

/** The brief without a part, to which the part is then written anew. */
export function without(part: Part, brief: Brief): Brief {
  switch (part) {
    case 'views':
      return brief;
    case 'by':
      return { ...brief, by: [] };
    case 'each':
      return { ...brief, grain: null };
    case 'during':
      return { ...brief, period: { kind: 'all time' } };
    case 'against':
      return { ...brief, against: null };
    case 'as':
      return { ...brief, form: null };
    case 'keep':
      return { ...brief, keep: null };
    case 'sorted':
      return { ...brief, sort: null };
    case 'only':
      return { ...brief, only: [] };
    case 'lit':
      return { ...brief, lit: null };
    case 'on':
      return { ...brief, ruler: null };
  }
}

function periods(years: readonly number[]): (readonly [string, PeriodWords])[] {
  const [latest, ...earlier] = years;
  const list: (readonly [string, PeriodWords])[] = [];
  if (latest !== undefined) {
    list.push([`fiscal ${latest} to date`, { kind: 'fiscal', year: latest, toDate: true }]);
    list.push([`fiscal ${latest}`, { kind: 'fiscal', year: latest }]);
  }
  list.push(
    ['quarter to date', { kind: 'to date', grain: 'quarter' }],
    ['month to date', { kind: 'to date', grain: 'month' }],
    ['latest month', { kind: 'latest', grain: 'month' }],
    ['previous month', { kind: 'previous', grain: 'month' }],
    ['previous quarter', { kind: 'previous', grain: 'quarter' }],
    ['last 12 months', { kind: 'last', count: 12, grain: 'month' }],
    ['last 28 days', { kind: 'last', count: 28, grain: 'day' }],
    ['latest day', { kind: 'latest', grain: 'day' }],
  );
  for (const year of earlier) list.push([`fiscal ${year}`, { kind: 'fiscal', year }]);
  list.push(['all time', { kind: 'all time' }]);
  return list;
}
