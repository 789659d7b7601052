import { original } from 'mutative';
import { briefOrNull, readBrief, writeBrief, writeView, type Brief, type View, type Vocabulary } from '../../brief';
import { withNames } from '../../form';
import { Problem } from '../../problem';
import { BUILT_IN_BENCHMARKS, STANDING_HIGHLIGHT, type Named, type Report } from '../../report';
import type { EditKinds, NamedEdit, ReportDraft } from '../edit';
import { withMeasure } from '../columnIds';
import { refuseTaken } from '../taken';
import { takeOut } from '../takeOut';
import { uses } from '../usage';
import type { TableEdit } from './columns';

/** Edits that have to know which names there are: what they change is followed to every place that uses it. */
export const names: EditKinds<Exclude<NamedEdit, TableEdit>> = {
  rename: {
    say: ({ from }) => `rename ${from}`,
    apply: (draft, { kind, from, to }, { vocabulary }) => {
      const report = original(draft) as Report;
      const known = namesOf(report, kind);
      if (!known.includes(from)) throw gone(kind, from);
      const taken = [...known.filter((name) => name !== from), ...OWN[kind]];
      refuseTaken(kind, to, taken);
      rename(draft, kind, from, to, vocabulary);
    },
  },

  remove: {
    say: ({ name }) => `remove ${name}`,
    apply: (draft, { kind, name }, known) => {
      if (!namesOf(original(draft) as Report, kind).includes(name)) throw gone(kind, name);
      takeOut(draft, { [`${kind}s`]: [name] }, known);
    },
  },

  'set-clauses': {
    say: () => 'change the brief',
    apply: (draft, { figure, clauses }, { vocabulary }) => {
      const entry = draft.figures.find(({ id }) => id === figure);
      if (!entry) return;
      const text = writeBrief({ ...readBrief(entry.brief, vocabulary), ...clauses }, vocabulary);
      // Reading it back refuses what cannot be written, before it reaches the report.
      readBrief(text, vocabulary);
      if (text !== entry.brief) entry.brief = text;
    },
  },

  'narrow-figures': {
    say: () => 'the same rows in all figures',
    apply: (draft, { only }, { vocabulary, facts }) => {
      const { measures } = original(draft) as Report;
      for (const figure of draft.figures) {
        // One that cannot be read, or whose table lacks one of the fields, keeps its own.
        const brief = briefOrNull(figure.brief, vocabulary);
        const table = brief && measures.find(({ name }) => name === brief.views[0]!.measure)?.table;
        const known = table ? facts(table)?.columns : undefined;
        if (brief && known && only.every(({ field }) => known.has(field)))
          figure.brief = writeBrief({ ...brief, only }, vocabulary);
      }
    },
  },
};

const gone = (kind: Named, name: string) =>
  new Problem(
    'unknown-name',
    `there is no ${kind} “${name}” any more`,
    undefined,
    'it may have been renamed or removed',
  );

/** Names that are there without being defined. */
const OWN: Readonly<Record<Named, readonly string[]>> = {
  measure: [],
  benchmark: BUILT_IN_BENCHMARKS.map(({ name }) => name),
  highlight: [STANDING_HIGHLIGHT],
  ruler: [],
};

function namesOf(report: Report, kind: Named): readonly string[] {
  switch (kind) {
    case 'measure':
      return report.measures.map(({ name }) => name);
    case 'benchmark':
      return report.benchmarks.map(({ name }) => name);
    case 'highlight':
      return report.highlights.map(({ name }) => name);
    case 'ruler':
      return report.rulers.map(({ id }) => id);
  }
}

function rename(draft: ReportDraft, kind: Named, from: string, to: string, vocabulary: Vocabulary): void {
  const replace = (all: readonly string[], of: Named) =>
    of === kind ? all.map((name) => (name === from ? to : name)) : all;
  const after: Vocabulary = {
    ...vocabulary,
    measures: replace(vocabulary.measures, 'measure'),
    benchmarks: replace(vocabulary.benchmarks, 'benchmark'),
    highlights: replace(vocabulary.highlights, 'highlight'),
    rulers: replace(vocabulary.rulers, 'ruler'),
  };
  // The words of other names may need quotes beside the new name, and none without the old one.
  for (const figure of draft.figures) {
    const brief = briefOrNull(figure.brief, vocabulary);
    const look = relooked(figure.look, kind, from, to, brief);
    if (look !== figure.look) figure.look = look;
    if (!brief) continue;
    if (uses(brief, kind, from)) figure.brief = writeBrief(renamedIn(brief, kind, from, to), after);
    else if (JSON.stringify(briefOrNull(figure.brief, after)) !== JSON.stringify(brief))
      figure.brief = writeBrief(brief, after);
  }
  for (const one of draft.measures) if (kind === 'measure' && one.name === from) one.name = to;
  for (const one of draft.highlights) if (kind === 'highlight' && one.name === from) one.name = to;
  for (const one of draft.rulers) if (kind === 'ruler' && one.id === from) one.id = to;
  for (const one of draft.benchmarks) {
    if (kind === 'benchmark' && one.name === from) one.name = to;
    if (kind === 'benchmark' && one.kind === 'scaled' && one.of === from) one.of = to;
  }
  for (const one of draft.accepted ?? []) if (one.about === kind && one.id === from) one.id = to;
}

function renamedIn(brief: Brief, kind: Named, from: string, to: string): Brief {
  switch (kind) {
    case 'measure':
      return { ...brief, views: brief.views.map((view) => renamedView(view, from, to)) };
    case 'benchmark':
      return { ...brief, against: to };
    case 'highlight':
      return { ...brief, lit: to };
    case 'ruler':
      return { ...brief, ruler: to };
  }
}

const renamedView = (view: View, from: string, to: string): View =>
  view.measure === from ? { ...view, measure: to } : view;

/** A look names measures and benchmarks, and columns by their views. */
function relooked<L extends object>(look: L, kind: Named, from: string, to: string, brief: Brief | null): L {
  // Columns that the brief does not have now are followed, too: it may have them again.
  const shown = new Set(brief?.views.map((view) => writeView(view)));
  return withNames(look, (name, of) => {
    if (of === kind) return name === from ? to : name;
    if (of !== 'column') return name;
    const view = brief?.views.find((one) => writeView(one) === name);
    if (kind === 'measure') return view ? writeView(renamedView(view, from, to)) : withMeasure(name, from, to);
    return kind === 'benchmark' && name === from && !shown.has(from) ? to : name;
  });
}
