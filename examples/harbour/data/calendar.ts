/** The harbour’s own calendar. Everything happens around one fixed day, so that pages and pictures do not change. */

/** The day on which the demonstration plays, as an ISO date. */
export const demoDay = '2026-06-12';

/** When it begins: in the afternoon of the demo day, British Summer Time. */
export const demoStart = new Date(`${demoDay}T14:20:00+01:00`);

/** The ISO date so many days after the demo day. */
export function dayAfter(days: number): string {
  return new Date(Date.parse(`${demoDay}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}

/** A clock that showed the demo day when the harbour was opened first, and runs as usual. */
export function demoClock(opened: Date): () => Date {
  return () => new Date(demoStart.getTime() + (Date.now() - opened.getTime()));
}

/** How many nights lie between two ISO dates. */
export function nightsBetween(from: string, until: string): number {
  return Math.round((Date.parse(until) - Date.parse(from)) / 86_400_000);
}
