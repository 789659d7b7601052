'use client';

import { useState } from 'react';
import type { Brief, Condition } from '@bold-ruler/core/brief';
import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import { ChoiceList } from '@/ui/ChoiceList';
import { narrowAll } from './commands';

interface Props {
  readonly brief: Brief;
  readonly fields: readonly string[];
  readonly onBrief: (brief: Brief) => void;
}

const membersIn = (brief: Brief, field: string): readonly (string | null)[] => {
  const condition = brief.only.find((c) => c.kind === 'is' && c.field === field);
  return condition?.kind === 'is' ? condition.members : [];
};

/** What stands for all figures among the fields. */
const EVERYWHERE = '\u0000 all figures';

/** Conditions: first a field, then its members, each of which goes in or out. */
export function OnlyChoices({ brief, fields, onBrief }: Props) {
  const [field, setField] = useState<string | null>(null);
  const { value } = useAnswer([field], field === null ? null : (now) => desk().members(now, field));
  const members = value ?? [];

  if (field === null) {
    const conditions = brief.only.map((condition, i) => ({
      id: `remove ${i}`,
      text: `take away: ${condition.field} …`,
      chosen: true,
    }));
    return (
      <ChoiceList
        key="fields"
        label="Only rows where"
        choices={[
          ...conditions,
          { id: EVERYWHERE, text: brief.only.length > 0 ? 'the same rows in all figures' : 'all rows in all figures' },
          ...fields.map((name) => ({ id: name, text: name, detail: membersIn(brief, name).join(', ') })),
        ]}
        onChoose={(id) => {
          if (id === EVERYWHERE) return void narrowAll(brief.only);
          const remove = /^remove (\d+)$/.exec(id);
          if (remove) onBrief({ ...brief, only: brief.only.filter((_, i) => i !== Number(remove[1])) });
          else setField(id);
        }}
      />
    );
  }
  const chosen = membersIn(brief, field);
  return (
    <ChoiceList
      key={field}
      label={`${field} is`}
      choices={members.map((member) => ({ id: member, text: member, chosen: chosen.includes(member) }))}
      onChoose={(member) => {
        const next = chosen.includes(member) ? chosen.filter((m) => m !== member) : [...chosen, member];
        const others = brief.only.filter((condition) => !(condition.kind === 'is' && condition.field === field));
        const only: Condition[] = next.length === 0 ? others : [...others, { kind: 'is', field, members: next }];
        onBrief({ ...brief, only });
      }}
    />
  );
}
