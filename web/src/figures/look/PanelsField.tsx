'use client';

import { Field, INPUT } from '@/ui/Field';
import { setLook } from '../commands';
import type { FieldFacts } from './OptionField';

/** Which field's members have a panel each. */
export function PanelsField({ figureId, look, fields }: FieldFacts) {
  return (
    <Field label="A panel for each">
      <select
        className={INPUT}
        value={look.panels ?? ''}
        onChange={(event) => setLook(figureId, 'set panels', 'panels', event.target.value || undefined)}
      >
        <option value="">no panels</option>
        {fields.map((field) => (
          <option key={field}>{field}</option>
        ))}
      </select>
    </Field>
  );
}
