'use client';

import { ChevronDown, X } from 'lucide-react';
import { useState } from 'react';
import { ChoiceList } from '@/ui/ChoiceList';
import { Popover } from '@/ui/Popover';
import type { ReaderOffers } from '@bold-ruler/core/page';
import type { ReaderChoice } from '@bold-ruler/core/desk';
import { pickedBack } from '@bold-ruler/core/brief';

interface Props {
  readonly offers: ReaderOffers;
  readonly choice: ReaderChoice;
  readonly onChoose: (choice: Partial<ReaderChoice>) => void;
}

const BLANK = '(blank)';
const OWN = '\u0000 own period';

/** What the reader of a page can choose: members, the period, and what lights up. Everything on the page follows. */
export function FilterBar({ offers, choice, onChoose }: Props) {
  const { only, period, switched, picked } = choice;
  const isNarrowed = Object.values(only).some((members) => members.length > 0) || period !== null || picked !== null;
  return (
    <div role="group" aria-label="Filters of the page" className="flex flex-wrap items-center gap-2">
      {offers.fields.map(({ field, choice: many, members }) => {
        const chosen = only[field] ?? [];
        return (
          <Filter key={field} name={field} value={saying(chosen)} isSet={chosen.length > 0}>
            {(close) => (
              <ChoiceList
                label={`Find a ${field}`}
                choices={members.map((member) => ({
                  id: member,
                  text: member || BLANK,
                  chosen: chosen.includes(member || null),
                }))}
                onChoose={(id) => {
                  const member = id || null;
                  const others = chosen.filter((one) => one !== member);
                  const next = chosen.includes(member) ? others : many === 'one' ? [member] : [...chosen, member];
                  onChoose({ only: { ...only, [field]: next } });
                  if (many === 'one') close();
                }}
              />
            )}
          </Filter>
        );
      })}
      {offers.periods.length > 0 && (
        <Filter
          name="period"
          value={
            period === null
              ? 'as each figure says'
              : (offers.periods.find(({ text }) => text === period)?.name ?? period)
          }
          isSet={period !== null}
        >
          {(close) => (
            <ChoiceList
              label="Find a period"
              choices={[
                { id: OWN, text: 'as each figure says', chosen: period === null },
                ...offers.periods.map(({ text, name, kind }) => ({
                  id: text,
                  text: name,
                  detail: kind,
                  chosen: text === period,
                })),
              ]}
              onChoose={(id) => {
                onChoose({ period: id === OWN ? null : id });
                close();
              }}
            />
          )}
        </Filter>
      )}
      {offers.switches.map(({ id, name, on }) => {
        const now = on !== switched.includes(id);
        return (
          <label key={id} className="flex h-8 items-center gap-1.5 px-1 text-[13px]">
            <input
              type="checkbox"
              checked={now}
              onChange={() =>
                onChoose({ switched: switched.includes(id) ? switched.filter((one) => one !== id) : [...switched, id] })
              }
            />
            {name}
          </label>
        );
      })}
      {picked && (
        <nav aria-label="What is looked into" className="flex items-center gap-1">
          {[...(picked.within ?? []), picked].map(({ field, member }, i) => (
            <button
              key={field}
              type="button"
              title={field}
              className="flex h-8 items-center gap-1.5 rounded-sm border border-boxwood-dark/60 bg-boxwood-light px-2.5 text-[13px]"
              onClick={() => onChoose({ picked: pickedBack(picked, i) })}
            >
              {i === 0 ? 'only ' : ''}
              {member ?? BLANK}
              <X aria-hidden size={13} />
              <span className="sr-only">, let it go</span>
            </button>
          ))}
        </nav>
      )}
      {isNarrowed && (
        <button
          type="button"
          className="h-8 px-1 text-[13px] font-semibold underline underline-offset-2"
          onClick={() => onChoose({ only: {}, period: null, picked: null })}
        >
          Show everything
        </button>
      )}
    </div>
  );
}

function saying(chosen: readonly (string | null)[]): string {
  if (chosen.length === 0) return 'all';
  const first = chosen[0] ?? BLANK;
  return chosen.length === 1 ? first : `${first} and ${chosen.length - 1} more`;
}

function Filter({
  name,
  value,
  isSet,
  children,
}: {
  name: string;
  value: string;
  isSet: boolean;
  children: (close: () => void) => React.ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={name}
      trigger={
        <button
          type="button"
          className={`flex h-8 max-w-[240px] items-center gap-1.5 rounded-sm border px-2.5 text-[13px] ${isSet ? 'border-ink bg-paper' : 'border-hairline bg-paper hover:border-ink'}`}
        >
          <span className="text-quiet">
            {name}
            <span className="sr-only">: </span>
          </span>
          <span className={`truncate ${isSet ? 'font-semibold' : ''}`}>{value}</span>
          <ChevronDown aria-hidden size={13} className="shrink-0 text-quiet" />
        </button>
      }
    >
      {children(() => setOpen(false))}
    </Popover>
  );
}
