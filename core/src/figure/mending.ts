import { formOf, partsOfBrief, writeBrief, type Brief, type BriefParts, type Form, type Vocabulary } from '../brief';
import type { Grain } from '../calendar';
import { declarationOf, forms } from '../form';
import { isProblem } from '../problem';
import { Refusal, type Workspace } from '../query';
import type { FigureEntry, Look } from '../report';
import {
  againstNothing,
  all,
  alone,
  allRows,
  allTime,
  asItIs,
  by,
  each,
  everyone,
  noRest,
  plainly,
  toDate,
  type Change,
} from './changes';
import { drawFigure } from './draw';
import { formDefinition } from './registry';

/** A brief that can be drawn, and what was changed to make it so; nothing where nothing had to be. */
export interface Mended {
  readonly brief: Brief;
  readonly text: string;
  /** In words, as `adds “each week”`; empty where the brief stays as it is. */
  readonly change: string;
}

/** A form, and the brief it can be drawn from. */
export interface FormOffer extends Mended {
  readonly form: Form;
  readonly purpose: string;
}

const OPENING: Readonly<Record<keyof BriefParts, string>> = {
  views: '',
  by: 'by ',
  each: 'each ',
  during: 'during ',
  against: 'against ',
  as: 'as ',
  keep: 'keep ',
  sorted: 'sorted by ',
  only: 'only ',
  lit: 'lit by ',
  on: 'on ',
};

/** What differs between two briefs, in words; the form is not told. */
function changeBetween(before: Brief, after: Brief): string {
  const [was, is] = [partsOfBrief(before), partsOfBrief(after)];
  const told = (Object.keys(OPENING) as (keyof BriefParts)[]).flatMap((part) => {
    if (part === 'as' || was[part] === is[part]) return [];
    const named = (text: string) => `“${OPENING[part]}${text}”`;
    if (part === 'views') return [`shows ${named(is.views)}`];
    if (is[part] === null) return [`leaves out ${named(was[part]!)}`];
    return [was[part] === null ? `adds ${named(is[part])}` : `says ${named(is[part])}`];
  });
  return told.join(', ');
}

/** A field whose members can be told apart at a glance. */
function likelyField({ fields, members }: Vocabulary): string[] {
  const found = fields.find((field) => {
    const count = members(field)?.length ?? 0;
    return count >= 2 && count <= 40;
  });
  return found === undefined ? [] : [found];
}

const COARSER: Readonly<Record<Grain, readonly Grain[]>> = {
  day: ['week', 'month'],
  week: ['week', 'month'],
  month: ['month', 'quarter'],
  quarter: ['quarter', 'year'],
  year: ['year'],
};

/** Steps in time a measure can be shown in, the likeliest first. */
function grainsFor({ source, report }: Workspace, brief: Brief): readonly Grain[] {
  const measure = report.measures.find(({ name }) => name === brief.views[0]!.measure);
  const grain = measure && source.facts(measure.table)?.grain;
  return grain ? COARSER[grain] : [];
}

/** Changes that may make a form fit, the smallest first. */
function changesFor(form: Form, brief: Brief, grains: readonly Grain[], field: readonly string[]): readonly Change[] {
  const members = by(brief.by.length > 0 ? brief.by : field);
  const hints = { steps: brief.grain ? [] : grains.map(each), members };
  return (
    formDefinition(form).fitting?.(brief, hints) ?? [
      each(null),
      all(plainly, each(null)),
      all(alone, plainly, each(null)),
      all(alone, plainly, each(null), againstNothing),
    ]
  );
}

async function canBeDrawn(workspace: Workspace, text: string, look: Look): Promise<boolean> {
  try {
    const { cells } = await drawFigure(workspace, { id: '', brief: text, look });
    return cells.count > 0;
  } catch (error) {
    if (isProblem(error)) return false;
    throw error;
  }
}

/** The first of some changes after which the brief can be drawn. */
async function firstThatDraws(
  workspace: Workspace,
  brief: Brief,
  changes: readonly Change[],
  look: Look,
): Promise<Mended | null> {
  for (const change of changes) {
    const next = change(brief);
    const text = writeBrief(next, workspace.vocabulary);
    if (await canBeDrawn(workspace, text, look)) return { brief: next, text, change: changeBetween(brief, next) };
  }
  return null;
}

/**
 * The forms a brief can be drawn in, each with the brief as it is or with the least change that makes the form fit. Forms that
 * nothing makes fit are left out.
 */
export async function formsFor(workspace: Workspace, brief: Brief): Promise<FormOffer[]> {
  const grains = grainsFor(workspace, brief);
  const field = likelyField(workspace.vocabulary);
  const offers: FormOffer[] = [];
  for (const form of forms()) {
    const wanted: Brief = { ...brief, form };
    const mended = await firstThatDraws(workspace, wanted, [asItIs, ...changesFor(form, wanted, grains, field)], {});
    if (mended) offers.push({ form, purpose: declarationOf(form).purpose, ...mended });
  }
  return offers;
}

/** The change that a refusal’s own words speak of; none where the figure can be drawn, or where any field or benchmark would do. */
async function meantBy(workspace: Workspace, figure: FigureEntry, members: Change): Promise<Change[]> {
  try {
    await drawFigure(workspace, figure);
    return [];
  } catch (error) {
    if (error instanceof Refusal) return [error.meant, all(error.meant, members)];
    if (isProblem(error)) return [];
    throw error;
  }
}

const MOST_REPAIRS = 3;

/** Changes of a brief that let a figure be drawn which cannot be as it is; the smallest first, at most three. */
export async function repairsFor(workspace: Workspace, figure: FigureEntry, brief: Brief): Promise<Mended[]> {
  const { vocabulary } = workspace;
  const grains = grainsFor(workspace, brief);
  const field = likelyField(vocabulary);
  const form = formOf(brief);
  const single: Change[] = [
    ...(await meantBy(workspace, figure, brief.by.length === 0 ? by(field) : asItIs)),
    ...changesFor(form, brief, grains, field),
    ...(brief.by.length === 0 ? [by(field)] : [by(brief.by.slice(0, 1)), by([])]),
    ...(brief.grain ? [...grains.map(each), each(null)] : grains.map(each)),
    noRest,
    everyone,
    againstNothing,
    plainly,
    alone,
    toDate,
    allTime,
    allRows,
    (one) => ({ ...one, form: null }),
  ];
  const found: Mended[] = [];
  const tried = new Set([writeBrief(brief, vocabulary)]);
  const attempt = async (change: Change) => {
    const next = change(brief);
    const text = writeBrief(next, vocabulary);
    if (found.length >= MOST_REPAIRS || tried.has(text)) return;
    tried.add(text);
    if (!(await canBeDrawn(workspace, text, figure.look))) return;
    const told = changeBetween(brief, next) || 'draws it in the form that fits';
    found.push({ brief: next, text, change: told });
  };
  for (const change of single) await attempt(change);
  if (found.length === 0)
    for (const change of [
      all(againstNothing, each(null)),
      all(plainly, againstNothing),
      all(plainly, alone, againstNothing, each(null), everyone),
    ])
      await attempt(change);
  return found;
}
