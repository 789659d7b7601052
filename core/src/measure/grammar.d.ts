import type { Expression } from './expression';

export class SyntaxError extends Error {
  readonly location: { readonly start: { readonly offset: number }; readonly end: { readonly offset: number } };
  readonly expected: readonly { readonly type: string; readonly description?: string; readonly text?: string }[] | null;
  readonly found: string | null;
}

export function parse(text: string): Expression;
