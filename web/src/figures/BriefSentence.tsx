'use client';

import { useState } from 'react';
import type { Brief } from '@bold-ruler/core/brief';
import type { FormOffer } from '@bold-ruler/core/figure';
import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import { ChoiceList } from '@/ui/ChoiceList';
import { Popover } from '@/ui/Popover';
import type { Offered, ReadableBrief } from '@bold-ruler/core/desk';
import { OnlyChoices } from './OnlyChoices';
import { ASK, OPENING, optionsFor, PARTS, without, type Part } from './parts';

interface Props {
  readonly readable: ReadableBrief;
  /** Null until it is known: the sentence stands where it will stand, and answers then. */
  readonly offered: Offered | null;
  readonly opened: { readonly part: Part } | null;
  readonly onBrief: (brief: Brief) => void;
  /** A part written by hand, in the brief's own words. */
  readonly onWords: (rest: Brief, words: string) => void;
  readonly onWrite: () => void;
}

/** The brief as a sentence whose parts are buttons; parts that are missing stand behind it as invitations. */
export function BriefSentence({ readable, offered, opened, onBrief, onWords, onWrite }: Props) {
  const { parts } = readable;
  const present = PARTS.filter((part) => parts[part] !== null);
  // Highlights and shared rulers are made in the drawer; only where there are some can the sentence invite to them.
  const missing = PARTS.filter(
    (part) =>
      parts[part] === null &&
      (part !== 'lit' || offered?.highlights.length !== 0) &&
      (part !== 'on' || offered?.rulers.length !== 0),
  );
  const part = (name: Part) =>
    offered ? (
      <SentencePart key={name} part={name} {...{ readable, offered, opened, onBrief, onWords }} />
    ) : (
      <span key={name} className={parts[name] === null ? INVITATION : SAID}>
        <PartWords part={name} words={parts[name]} />
      </span>
    );
  return (
    // What cannot be pressed yet is text alone.
    <div {...(offered ? { role: 'group', 'aria-label': 'Brief' } : {})} className="flex items-start gap-3">
      <p className="flex min-w-0 grow flex-wrap items-baseline gap-x-1.5 gap-y-1 text-[17px] leading-7">
        {present.map(part)}
        <span className="flex flex-wrap items-baseline gap-x-1 text-[13px]">{missing.map(part)}</span>
      </p>
      <button
        type="button"
        onClick={onWrite}
        title="Write the brief as text (key /)"
        className="mt-1 shrink-0 rounded-sm border border-hairline px-2 py-0.5 text-xs text-quiet hover:border-ink hover:text-ink"
      >
        write <kbd className="font-sans font-semibold">/</kbd>
      </button>
    </div>
  );
}

const SAID = 'max-w-full rounded-sm text-left';
const INVITATION = 'rounded-sm px-1 text-quiet';

/** What a part says, or what it invites to. */
function PartWords({ part, words }: { part: Part; words: string | null }) {
  const opening = OPENING[part];
  if (words === null) return `+ ${opening} …`;
  return (
    <>
      {opening && <span className="text-quiet">{opening} </span>}
      <strong className="border-b-2 border-boxwood font-semibold">{words}</strong>
    </>
  );
}

type PartProps = Omit<Props, 'onWrite' | 'offered'> & { readonly part: Part; readonly offered: Offered };

function SentencePart({ part, readable, offered, opened, onBrief, onWords }: PartProps) {
  const [open, setOpen] = useState(false);
  const [seen, setSeen] = useState(opened);
  if (opened !== seen) {
    setSeen(opened);
    if (opened?.part === part) setOpen(true);
  }
  const [typed, setTyped] = useState('');
  const { brief, parts } = readable;
  const words = parts[part];
  const opening = OPENING[part];
  const toggle = (next: boolean) => {
    setOpen(next);
    setTyped('');
  };
  const trigger =
    words === null ? (
      <button type="button" className={`${INVITATION} hover:bg-paper hover:text-ink`}>
        <PartWords part={part} words={words} />
      </button>
    ) : (
      <button type="button" aria-label={`${opening} ${words}`.trim()} className={`${SAID} hover:bg-paper`}>
        <PartWords part={part} words={words} />
      </button>
    );
  const forms = useForms(readable.text, open && part === 'as');
  const options = part === 'only' ? [] : optionsFor(part, brief, parts, forms ? { ...offered, forms } : offered);
  return (
    <Popover open={open} onOpenChange={toggle} label={ASK[part]} trigger={trigger}>
      {part === 'only' ? (
        <OnlyChoices brief={brief} fields={offered.fields} onBrief={onBrief} />
      ) : (
        <ChoiceList
          label={ASK[part]}
          typed={typed}
          onTyped={setTyped}
          own={(text) =>
            (part === 'during' || part === 'keep') &&
            /\d/.test(text) &&
            !options.some(({ choice }) => choice.text === text)
              ? { id: `own ${text}`, text: `${opening} ${text}` }
              : null
          }
          choices={options.map(({ choice }) => choice)}
          onChoose={(id) => {
            toggle(false);
            if (id.startsWith('own ')) onWords(without(part, brief), `${opening} ${id.slice(4)}`);
            else onBrief(options.find(({ choice }) => choice.id === id)!.brief);
          }}
        />
      )}
    </Popover>
  );
}

/** The forms that can be drawn from a brief, asked for while they are chosen from. */
function useForms(text: string, wanted: boolean): readonly FormOffer[] | null {
  const { value, isFresh } = useAnswer([text, wanted], wanted ? (now) => desk().forms(now, text) : null);
  return isFresh ? value : null;
}
