'use client';

import type { ComponentProps } from 'react';
import type { ChoiceCommand } from './ChoiceCommand';
import { useFloatingParts } from './useFloatingParts';

/** A searchable list in a popover. */
export function ChoiceList(props: ComponentProps<typeof ChoiceCommand>) {
  const parts = useFloatingParts(true);
  return parts && <parts.ChoiceCommand {...props} />;
}
