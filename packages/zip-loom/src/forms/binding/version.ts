/** What says which version of a record it is. */
export type Version = string | number | Date;

export function versionText(version: Version): string {
  return version instanceof Date ? version.toISOString() : String(version);
}
