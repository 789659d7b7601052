'use client';

import { ArrowUp, Plus, X } from 'lucide-react';
import { highlightFor, inkFault, INKS } from '@bold-ruler/core/highlight';
import { LIT_ON, type Highlight, type HighlightRule, type LitOn, type When } from '@bold-ruler/core/report';
import { NameField } from '@/fields/NameField';
import { freeName } from '@/store/freeName';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { AmountField } from '@/fields/AmountField';
import { DraftText } from '@/fields/DraftText';
import { Field, INPUT } from '@/ui/Field';
import { NewOne } from '@/ui/NewOne';
import type { DrawnFigure } from '@bold-ruler/core/desk';
import { factor, usePickedRule } from './HighlightStrip';
import { RampField } from './RampField';

const ON_WORDS: Record<LitOn, string> = {
  standing: 'ahead, level or behind',
  gap: 'the gap',
  'gap percent': 'the gap in %',
  value: 'the value',
  rank: 'the rank',
  'rank change': 'places won or lost',
  share: 'the share',
  expression: 'an expression',
  member: 'members by name',
};

/** What a rule of another kind begins with. */
function firstRules(on: LitOn): HighlightRule[] {
  const [ink, pine, vermilion] = INKS.map((one) => one.ink);
  const rule = (id: string, when: When, encode: HighlightRule['encode']): HighlightRule => ({
    id,
    when,
    encode,
    on: true,
  });
  switch (on) {
    case 'standing':
      return [
        rule('ahead', { standing: 'ahead' }, { ink: pine!, badge: 'up' }),
        rule('level', { standing: 'level' }, { ink: INKS[3]!.ink, badge: 'level' }),
        rule('behind', { standing: 'behind' }, { ink: vermilion!, badge: 'down' }),
      ];
    case 'rank':
      return [rule('best', { to: 4 }, { ink: pine!, badge: 'up' })];
    case 'rank change':
      return [
        rule('fallen', { to: 0 }, { ink: vermilion!, badge: 'down' }),
        rule('risen', { from: 1 }, { ink: pine!, badge: 'up' }),
      ];
    case 'member':
      return [rule('chosen', { members: [] }, { ink: ink!, fadeOthers: true })];
    default:
      return [
        rule('below', { to: 0 }, { ink: vermilion!, badge: 'down' }),
        rule('from', { from: 0 }, { ink: pine!, badge: 'up' }),
      ];
  }
}

interface Props {
  readonly figureId: string;
  readonly drawn: DrawnFigure;
  /** Asked for by a press on the figure: what can be chosen is at hand. */
  readonly isAsked: boolean;
}

/** The highlight of a figure: which rules paint, in order, with how much of the ruler they cover. */
export function HighlightPanel({ figureId, drawn, isAsked }: Props) {
  const report = useReport((state) => state.report);
  const { brief } = drawn.readable;
  const highlight = highlightFor(report!, brief.lit);
  const own = report!.highlights.some(({ name }) => name === highlight.name);
  const { picked } = usePickedRule();
  /** The rule that was pressed, else the first one: it is opened. */
  const opened = highlight.rules.find(({ id }) => id === picked)?.id ?? highlight.rules[0]?.id;
  const lightBy = (lit: string | null) => void edit({ edit: 'set-clauses', figure: figureId, clauses: { lit } });
  const add = (on: LitOn) => {
    const name = freeName(
      on === 'member' ? 'members' : `${on} rules`,
      report!.highlights.map((one) => one.name),
    );
    void edit({
      edit: 'add-highlight',
      highlight: {
        name,
        on,
        ...(on === 'expression' ? { expression: 'count(*)' } : {}),
        rules: firstRules(on),
      },
    });
    lightBy(name);
  };
  const change = (saying: string, next: Highlight) => void edit({ edit: 'change-highlight', saying, highlight: next });
  const setRule = (id: string, next: Partial<HighlightRule>) =>
    change('change a rule', {
      ...highlight,
      rules: highlight.rules.map((rule) => (rule.id === id ? { ...rule, ...next } : rule)),
    });

  return (
    <div className="space-y-3">
      <select
        aria-label="Lit by"
        autoFocus={isAsked}
        className={INPUT}
        value={own ? highlight.name : ''}
        onChange={(event) => {
          lightBy(event.target.value || null);
        }}
      >
        <option value="">standing, as the aim says</option>
        {report!.highlights.map(({ name }) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </select>
      <NewOne
        ask="A new highlight, by"
        choices={LIT_ON.map((on) => ({ id: on, text: ON_WORDS[on] }))}
        onChoose={(on) => add(on as LitOn)}
      >
        New highlight …
      </NewOne>
      {own && (
        <>
          <NameField
            key={highlight.name}
            kind="highlight"
            name={highlight.name}
            taken={report!.highlights.map(({ name }) => name)}
            onRenamed={() => {}}
          />
          {highlight.on === 'expression' && (
            <Field label="Looks at, for each row">
              <DraftText
                place={`expression of highlight ${highlight.name}`}
                base={highlight.expression ?? ''}
                rows={2}
                className={`${INPUT} h-auto py-1 font-mono text-xs`}
                onTake={(expression) => {
                  if (expression !== '') change('look at something else', { ...highlight, expression });
                }}
              />
            </Field>
          )}
          {highlight.on !== 'standing' && highlight.on !== 'member' && (
            <>
              <RampField
                of={highlight.name}
                ramp={highlight.ramp}
                hasBenchmark={brief.against !== null && highlight.on === 'value'}
                onRamp={(ramp) => {
                  const { ramp: _, ...rest } = highlight;
                  change('change the ramp', ramp ? { ...rest, ramp } : rest);
                }}
              />
            </>
          )}
          <ol className="space-y-2">
            {highlight.rules.map((rule, i) => (
              <Rule
                key={rule.id}
                place={`${rule.id} of ${highlight.name}`}
                rule={rule}
                isOpen={rule.id === opened}
                onOpen={() => usePickedRule.setState({ picked: rule.id })}
                on={highlight.on}
                others={highlight.rules.filter((one) => one.id !== rule.id).flatMap((one) => one.encode.ink ?? [])}
                members={drawn.rows.map(({ name }) => name)}
                stepped={brief.grain !== null}
                onRule={(next) => setRule(rule.id, next)}
                onReader={(reader) => {
                  const { reader: _, ...rest } = rule;
                  change(reader ? 'give a rule to the reader' : 'take a rule from the reader', {
                    ...highlight,
                    rules: highlight.rules.map((one) =>
                      one.id === rule.id ? (reader ? { ...rest, reader: true as const } : rest) : one,
                    ),
                  });
                }}
                onUp={
                  i === 0
                    ? null
                    : () => {
                        const rules = [...highlight.rules];
                        [rules[i - 1], rules[i]] = [rules[i]!, rules[i - 1]!];
                        change('move a rule up', { ...highlight, rules });
                      }
                }
                onRemove={() =>
                  change('remove a rule', {
                    ...highlight,
                    rules: highlight.rules.filter((one) => one.id !== rule.id),
                  })
                }
              />
            ))}
          </ol>
          {highlight.on !== 'standing' && (
            <Button
              small
              onClick={() =>
                change('add a rule', {
                  ...highlight,
                  rules: [
                    ...highlight.rules,
                    {
                      id: freeName(
                        'rule',
                        highlight.rules.map(({ id }) => id),
                      ),
                      when: highlight.on === 'member' ? { members: [] } : { highest: 1 },
                      encode: { ink: INKS[0]!.ink },
                      on: true,
                    },
                  ],
                })
              }
            >
              <Plus aria-hidden size={14} /> Rule
            </Button>
          )}
        </>
      )}
    </div>
  );
}

interface RuleProps {
  /** Which rule of which highlight it is. */
  readonly place: string;
  readonly rule: HighlightRule;
  readonly isOpen: boolean;
  readonly onOpen: () => void;
  readonly on: LitOn;
  readonly others: readonly string[];
  readonly members: readonly string[];
  /** The figure has steps in time, of which each row has its own highest and lowest. */
  readonly stepped: boolean;
  readonly onRule: (next: Partial<HighlightRule>) => void;
  readonly onReader: (reader: boolean) => void;
  readonly onUp: (() => void) | null;
  readonly onRemove: () => void;
}

function Rule({
  place,
  rule,
  isOpen,
  onOpen,
  on,
  others,
  members,
  stepped,
  onRule,
  onReader,
  onUp,
  onRemove,
}: RuleProps) {
  const { encode } = rule;
  const fault = encode.ink && !INKS.some(({ ink }) => ink === encode.ink) ? inkFault(encode.ink, others) : null;
  const paint = (part: { [K in keyof HighlightRule['encode']]?: HighlightRule['encode'][K] | undefined }) =>
    onRule({
      encode: Object.fromEntries(
        Object.entries({ ...encode, ...part }).filter(([, value]) => value !== undefined),
      ) as HighlightRule['encode'],
    });
  return (
    <li
      className={`border-l-4 bg-desk/50 py-1 pr-1 pl-2 ${rule.on ? '' : 'text-quiet'}`}
      style={{ borderColor: encode.ink }}
    >
      <div className="flex items-center gap-1.5">
        <label className="flex items-center">
          <input
            type="checkbox"
            aria-label={`${rule.id} paints`}
            checked={rule.on}
            onChange={(event) => onRule({ on: event.target.checked })}
          />
        </label>
        <button
          type="button"
          aria-expanded={isOpen}
          onClick={onOpen}
          className="min-w-0 grow truncate text-left text-[13px] font-semibold"
        >
          {rule.id}
        </button>
        {onUp && (
          <Button small look="bare" aria-label={`Move ${rule.id} up`} onClick={onUp} className="px-1">
            <ArrowUp aria-hidden size={14} />
          </Button>
        )}
        <Button small look="bare" aria-label={`Remove ${rule.id}`} onClick={onRemove} className="px-1">
          <X aria-hidden size={14} />
        </Button>
      </div>
      {isOpen && (
        <>
          <Condition place={place} rule={rule} on={on} members={members} stepped={stepped} onRule={onRule} />
          <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
            {INKS.map(({ name, ink }) => (
              <button
                key={ink}
                type="button"
                aria-label={name}
                aria-pressed={encode.ink === ink}
                onClick={() => paint({ ink })}
                className={`size-5 rounded-sm border-2 ${encode.ink === ink ? 'border-boxwood' : 'border-paper'}`}
                style={{ background: ink }}
              />
            ))}
            <input
              type="color"
              aria-label={`Another ink for ${rule.id}`}
              className="h-6 w-7"
              value={encode.ink ?? '#16202B'}
              onChange={(event) => paint({ ink: event.target.value.toUpperCase() })}
            />
            <select
              aria-label={`Badge of ${rule.id}`}
              className={`${INPUT} h-7 w-24!`}
              value={encode.badge ?? ''}
              onChange={(event) => paint({ badge: (event.target.value || undefined) as typeof encode.badge })}
            >
              <option value="">no badge</option>
              <option value="up">up</option>
              <option value="level">level</option>
              <option value="down">down</option>
            </select>
            <label className="flex items-center gap-1 text-xs">
              <input
                type="checkbox"
                checked={encode.fadeOthers ?? false}
                onChange={(event) => paint({ fadeOthers: event.target.checked ? true : undefined })}
              />
              others step back
            </label>
            <select
              aria-label={`How the ink of ${rule.id} is laid`}
              className={`${INPUT} h-7 w-20!`}
              value={encode.pattern ?? ''}
              onChange={(event) => paint({ pattern: (event.target.value || undefined) as typeof encode.pattern })}
            >
              <option value="">solid</option>
              <option value="hatch">hatched</option>
              <option value="dots">dotted</option>
            </select>
            <label className="flex items-center gap-1 text-xs">
              <input
                type="checkbox"
                checked={encode.edge !== undefined}
                onChange={(event) => paint({ edge: event.target.checked ? INKS[0]!.ink : undefined })}
              />
              edge
            </label>
            <label className="flex items-center gap-1 text-xs">
              <input
                type="checkbox"
                checked={encode.weight === 'bold'}
                onChange={(event) => paint({ weight: event.target.checked ? 'bold' : undefined })}
              />
              bold
            </label>
            <label className="flex items-center gap-1 text-xs">
              <input
                type="checkbox"
                checked={rule.reader ?? false}
                onChange={(event) => onReader(event.target.checked)}
              />
              a switch for the reader
            </label>
          </div>
        </>
      )}
      {fault && (
        <p role="status" className="mt-1 text-xs text-behind">
          {fault.sentence}.{' '}
          {fault.instead && (
            <button type="button" className="underline" onClick={() => paint({ ink: fault.instead! })}>
              Take {fault.instead}
            </button>
          )}
        </p>
      )}
    </li>
  );
}

type ConditionKind = 'between' | 'highest' | 'lowest' | 'highest in row' | 'lowest in row';

function conditionKind(when: When): ConditionKind {
  if ('highest' in when) return when.within ? 'highest in row' : 'highest';
  if ('lowest' in when) return when.within ? 'lowest in row' : 'lowest';
  return 'between';
}

function whenOf(kind: ConditionKind, count: number): When {
  switch (kind) {
    case 'between':
      return { from: 0 };
    case 'highest':
      return { highest: count };
    case 'lowest':
      return { lowest: count };
    case 'highest in row':
      return { highest: count, within: 'row' };
    case 'lowest in row':
      return { lowest: count, within: 'row' };
  }
}

function Condition({
  place,
  rule,
  on,
  members,
  stepped,
  onRule,
}: Pick<RuleProps, 'place' | 'rule' | 'on' | 'members' | 'stepped' | 'onRule'>) {
  const { when } = rule;
  if ('standing' in when) return <p className="text-xs text-quiet">when {when.standing}</p>;
  if ('members' in when)
    return (
      <select
        multiple
        aria-label={`Members of ${rule.id}`}
        className={`${INPUT} h-20`}
        value={[...when.members]}
        onChange={(event) =>
          onRule({ when: { members: [...event.target.selectedOptions].map((option) => option.value) } })
        }
      >
        {members.map((member) => (
          <option key={member}>{member}</option>
        ))}
      </select>
    );
  const kind = conditionKind(when);
  const count = 'highest' in when ? when.highest : 'lowest' in when ? when.lowest : 3;
  const scale = factor(on);
  const bounds = kind === 'between' ? (when as { readonly from?: number; readonly to?: number }) : {};
  const bound = (end: 'from' | 'to') => (
    <AmountField
      place={`${end} ${place}`}
      label={`${end === 'from' ? 'from' : 'below'}${scale === 100 ? ', %' : ''}`}
      className="h-7 text-right"
      placeholder="open"
      mayBeEmpty
      value={bounds[end] === undefined ? undefined : Math.round(bounds[end] * scale * 1e6) / 1e6}
      onKeep={(value) => {
        const { [end]: _, ...rest } = bounds;
        onRule({ when: value === undefined ? rest : { ...rest, [end]: value / scale } });
      }}
    />
  );
  return (
    <div className="grid grid-cols-3 gap-1.5">
      <Field label="when">
        <select
          className={`${INPUT} h-7`}
          value={kind}
          onChange={(event) => {
            onRule({ when: whenOf(event.target.value as ConditionKind, count) });
          }}
        >
          <option value="between">it lies</option>
          <option value="highest">highest</option>
          <option value="lowest">lowest</option>
          {(stepped || kind === 'highest in row') && <option value="highest in row">highest of its row</option>}
          {(stepped || kind === 'lowest in row') && <option value="lowest in row">lowest of its row</option>}
        </select>
      </Field>
      {kind === 'between' ? (
        <>
          {bound('from')}
          {bound('to')}
        </>
      ) : (
        <Field label="how many">
          <input
            type="number"
            min={1}
            className={`${INPUT} h-7 text-right`}
            value={count}
            onChange={(event) => {
              const n = Math.max(1, Math.round(Number(event.target.value)) || 1);
              onRule({ when: whenOf(kind, n) });
            }}
          />
        </Field>
      )}
    </div>
  );
}
