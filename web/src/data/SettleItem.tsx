'use client';

import type { ReactNode } from 'react';
import { Button } from '@/ui/Button';
import { edit } from '@/store/edit';

export function Item({ children, actions }: { children: ReactNode; actions?: ReactNode }) {
  return (
    <li className="flex items-center gap-3 border-b [border-left-width:4px] border-hairline border-l-boxwood px-3 py-2">
      <p className="min-w-0 grow text-[13px]">{children}</p>
      <span className="flex shrink-0 gap-2">{actions}</span>
    </li>
  );
}

/** Lets what was found stand: it is not pointed at here any more. */
export function Stands({
  code,
  tableId,
  reason,
  saying,
  children,
}: {
  code: string;
  tableId: string;
  reason: string;
  saying: string;
  children: ReactNode;
}) {
  return (
    <Button
      small
      title="It stays, and is not pointed at here any more"
      onClick={() => void edit({ edit: 'accept-finding', of: { code, about: 'table', id: tableId }, reason, saying })}
    >
      {children}
    </Button>
  );
}
