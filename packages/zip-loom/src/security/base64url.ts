/** Bytes as text (RFC 4648 §5, without padding), wherever the library runs. */

/** An engine takes so many arguments in one call: the smallest limit known is 65,535. */
const piece = 0x8000;

export function toBase64URL(bytes: Uint8Array): string {
  let binary = '';
  for (let at = 0; at < bytes.length; at += piece) binary += String.fromCharCode(...bytes.subarray(at, at + piece));
  return btoa(binary)
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replace(/={1,2}$/, '');
}

/** `undefined` for text that is not base64url, or whose bytes are not UTF-8. */
export function fromBase64URL(text: string): string | undefined {
  try {
    const binary = atob(text.replaceAll('-', '+').replaceAll('_', '/'));
    const bytes = new Uint8Array(binary.length);
    for (let at = 0; at < binary.length; at++) bytes[at] = binary.charCodeAt(at);
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return undefined;
  }
}
