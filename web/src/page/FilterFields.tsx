'use client';

import type { Page } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import { INPUT } from '@/ui/Field';
import type { ReaderOffers } from '@bold-ruler/core/page';
import { setFilters } from './commands';

/** What the page's reader may choose: the fields, one member or several of each, and the period. */
export function FilterFields({ page, offers }: { page: Page; offers: ReaderOffers | null }) {
  const fields = useAnswer([offers], (now) => desk().offered(now)).value?.fields ?? [];
  const { filters, period } = page;
  const set = (next: Page['filters'], withPeriod = period === true) => setFilters(page.id, next, withPeriod);
  return (
    <fieldset className="space-y-1">
      <legend className="mb-1 text-xs text-quiet">The reader may choose</legend>
      {fields.map((field) => {
        const filter = filters.find((one) => one.field === field);
        return (
          <div key={field} className="flex h-7 items-center gap-2 text-[13px]">
            <label className="flex min-w-0 grow items-center gap-2">
              <input
                type="checkbox"
                checked={filter !== undefined}
                onChange={() =>
                  set(filter ? filters.filter((one) => one !== filter) : [...filters, { field, choice: 'several' }])
                }
              />
              <span className="truncate">{field}</span>
            </label>
            {filter && (
              <select
                aria-label={`How many of ${field}`}
                className={`${INPUT} h-7 max-w-24 shrink-0`}
                value={filter.choice}
                onChange={(event) =>
                  set(
                    filters.map((one) =>
                      one === filter ? { field, choice: event.target.value as 'one' | 'several' } : one,
                    ),
                  )
                }
              >
                <option value="several">several</option>
                <option value="one">one</option>
              </select>
            )}
          </div>
        );
      })}
      <label className="flex h-7 items-center gap-2 text-[13px]">
        <input type="checkbox" checked={period === true} onChange={() => set(filters, period !== true)} />
        the period
      </label>
    </fieldset>
  );
}
