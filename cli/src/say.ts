// Control characters, and those that turn the direction of writing: a terminal may take them for orders.
// oxlint-disable-next-line no-control-regex
const ORDERS = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069]/g;

/** A text as a terminal may show it, whatever a file has in it. */
export function printable(text: string): string {
  return text.replace(ORDERS, '\ufffd');
}

/** Writes text for people to standard output. */
export function say(text: string): void {
  process.stdout.write(printable(text));
}

/** Writes rows to standard output: as they are where they go to a file or another program. */
export function sayRows(text: string): void {
  process.stdout.write(process.stdout.isTTY ? text.replace(/\r\n/g, '\n').replace(ORDERS, '\ufffd') : text);
}

/** Writes a line for people to standard error. */
export function tell(line: string): void {
  console.error(printable(line));
}
