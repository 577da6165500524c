/** What kind of file it is: by its bytes, never by its name. */
import { firstElementName } from '../../kernel/index.ts';

/** What is not known. */
export const anyType = 'application/octet-stream';

/** Types of text, which have no mark of their own. */
const textType = /^text\/[\w.+-]+$|^application\/(?:[\w.+-]+\+)?(?:json|xml|yaml|toml|x-ndjson)$|^image\/svg\+xml$/;

/**
 * What a file seems to be by its first bytes, and what looks at all of them where only that tells.
 * @param declared as its sender says
 * @param found by its mark; `undefined` where it has none
 */
export function presumedType(
  head: Uint8Array,
  declared: string,
  found: string | undefined,
): { type: string; text: TextCheck | undefined } {
  const type = declared.split(';')[0]!.trim().toLowerCase();
  // Drawings are known by their root, other kinds of XML by what their sender says.
  const hasNoMark = found === undefined || found === 'application/xml';
  const mayBeText = hasNoMark && textType.test(type) && (type !== 'image/svg+xml' || beginsAsSVG(head));
  return mayBeText ? { type, text: new TextCheck() } : { type: found ?? anyType, text: undefined };
}

/** Looks whether a file is text: valid UTF-8 without control characters but for tabs and the ends of lines and pages. */
class TextCheck {
  isText = true;
  private readonly decoder = new TextDecoder('utf-8', { fatal: true });

  add(piece: Uint8Array): void {
    this.look(() => this.decoder.decode(piece, { stream: true }));
  }

  end(): boolean {
    this.look(() => this.decoder.decode());
    return this.isText;
  }

  private look(decode: () => string): void {
    if (!this.isText) return;
    try {
      this.isText = !/[^\P{Cc}\t\n\f\r]/u.test(decode());
    } catch {
      this.isText = false;
    }
  }
}

/** Whether the start of a text is that of a drawing. */
function beginsAsSVG(head: Uint8Array): boolean {
  const name = firstElementName(new TextDecoder().decode(head.subarray(0, 2000)));
  return name === 'svg' || name.endsWith(':svg');
}

/** What a field takes. */
export interface FileRule {
  /** Media types; any, where there are none. */
  accept: readonly string[] | undefined;
  /** Bytes. */
  maximumSize: number | undefined;
  /** Several files may be sent. */
  isMany: boolean;
}

/** What is wrong with a file, by the rule of its field. */
export function fileFault(
  { type, size }: { type: string; size: number },
  { accept, maximumSize = Number.POSITIVE_INFINITY }: FileRule,
): { code: 'file-type' | 'file-too-large'; limit?: number } | undefined {
  if (!isAccepted(type, accept)) return { code: 'file-type' };
  return size > maximumSize ? { code: 'file-too-large', limit: maximumSize } : undefined;
}

/** Whether a field takes files of a type. `accept` may name groups, as `image/*`. */
export function isAccepted(type: string, accept: readonly string[] | undefined): boolean {
  if (!accept) return true;
  return accept.some((one) => {
    const wanted = one.trim().toLowerCase();
    return wanted === type || wanted === '*/*' || (wanted.endsWith('/*') && type.startsWith(wanted.slice(0, -1)));
  });
}
