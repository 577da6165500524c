/**
 * An address as the URL standard’s parser reads it, or `undefined` where it cannot be read. Not by `URL.canParse`, which some
 * versions of Node answer wrongly for text beyond ASCII once the call is compiled.
 */
export function readURL(address: string, base?: string | URL): URL | undefined {
  try {
    return new URL(address, base);
  } catch {
    return undefined;
  }
}
