const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

/** A moment as a clock shows it. */
export const clockTime = (at: number): string => clock.format(at);
