/** The status of a page by what it shows. */

/** A form among the data that was refused gives the page its status. */
export function statusOf(data: object): number {
  for (const value of Object.values(data)) {
    if (
      typeof value === 'object' &&
      value !== null &&
      'ok' in value &&
      value.ok === false &&
      'refuse' in value &&
      'status' in value
    ) {
      return Number(value.status);
    }
  }
  return 200;
}
