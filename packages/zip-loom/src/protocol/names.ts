/** Names in headers, which hold ASCII alone (RFC 9110 §5.5): of a page with its layouts, of the regions that are wanted. */

/** Writes the name of a page: what is beyond ASCII is percent-encoded. */
export function writePageName(name: string): string {
  return name.replace(/[^ -~]|%/gu, encodeURIComponent);
}

/** Reads it. What was not written so is the name of no page. */
export function readPageName(text: string): string {
  if (!text.includes('%')) return text;
  try {
    return decodeURIComponent(text);
  } catch {
    return '';
  }
}

/** Writes names of regions. */
export function writeRegionNames(names: readonly string[]): string {
  return names.join(', ');
}

/** Reads them; `undefined` where there are none. */
export function readRegionNames(text: string): readonly string[] | undefined {
  const names = text.split(',').flatMap((name) => name.trim() || []);
  return names.length > 0 ? names : undefined;
}
