/** What was written into the log. It is forgotten when the program ends: a database is yours to choose. */
export interface Entry {
  id: number;
  boat: string;
  remark?: string | undefined;
  /** ISO 8601. */
  at: string;
}

const entries: Entry[] = [{ id: 1, boat: 'Quiet Tern', remark: 'Came in at high water.', at: '2026-06-12T13:20:00Z' }];

/** The latest first. */
export function latestEntries(): Entry[] {
  return entries.toReversed();
}

export function addEntry(values: Pick<Entry, 'boat' | 'remark'>): void {
  entries.push({ ...values, id: entries.length + 1, at: new Date().toISOString() });
}
