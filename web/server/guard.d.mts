export interface Asked {
  readonly method?: string;
  readonly url?: string;
  readonly headers: Readonly<Record<string, string | string[] | undefined>>;
}

export interface Refusal {
  readonly status: number;
  readonly code: string;
  readonly message: string;
  readonly remedy: string | null;
  readonly headers?: Readonly<Record<string, string>>;
}

export function isPrivate(host: string): boolean;
export function refusalOf(
  request: Asked,
  server: { readonly host: string; readonly port: number; readonly token: string | null },
): Refusal | null;
