import type { ComponentProps } from 'react';

const LOOKS = {
  /** The one main action of a place. */
  main: 'bg-boxwood text-engraved border-boxwood-dark/60 hover:bg-[color-mix(in_oklab,var(--color-boxwood),white_20%)] font-semibold',
  plain: 'bg-paper text-ink border-hairline hover:border-ink',
  bare: 'bg-transparent text-ink border-transparent hover:bg-ink/7',
} as const;

interface Props extends ComponentProps<'button'> {
  readonly look?: keyof typeof LOOKS;
  readonly small?: boolean;
}

export function Button({ look = 'plain', small = false, className = '', type = 'button', ...rest }: Props) {
  const size = small ? 'h-7 px-2 text-[13px]' : 'h-9 px-3';
  return (
    <button
      type={type}
      className={`inline-flex items-center justify-center gap-2 rounded-sm border whitespace-nowrap disabled:opacity-40 ${size} ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
