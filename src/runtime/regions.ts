/** Regions while a page is written: what stands in which, and the digest of each. */
import { Digest } from './digest.ts';
import type { Output } from './output.ts';
import { renderErrors } from './render-error.ts';
import { escapeText, plain } from './text.ts';

/** One region of a page as it was written; the page itself is the outermost. */
export interface RegionNode {
  name: string;
  /** The element’s name, for the stub that may stand in its place. */
  tag: string;
  /** Text, and the regions between it. */
  pieces: Array<string | RegionNode>;
  digest: Digest;
  /** Whether it read messages that wait to be shown. */
  showsFlash: boolean;
  parent: RegionNode | undefined;
}

/** Keeps regions apart while a page is written. */
export class Recorder {
  readonly page: RegionNode = makeRegion('page', 'body', undefined);
  readonly regions = new Map<string, RegionNode>();
  /** The only region that is wanted; its markup ends the rendering. */
  readonly only: string | undefined;
  /** Whether what is written now is wanted. */
  muted: boolean;
  /** Where the content of `<body>` begins and ends among the pieces of the page. */
  bodyStart = 0;
  bodyEnd = Number.POSITIVE_INFINITY;
  current: RegionNode = this.page;

  constructor(only?: string) {
    this.only = only;
    this.muted = only !== undefined;
  }

  /** Takes what has been written since the last call into the region at hand. */
  take(out: Output): void {
    if (out.s === '') return;
    this.current.digest.add(out.s);
    this.current.pieces.push(out.s);
    out.s = '';
  }
}

/** Ends a rendering of which only one region was wanted. */
export class RegionDone extends Error {}

const validName = /^[A-Za-z0-9_.:-]+$/;

/**
 * Begins a region. False where its body need not run: another region is wanted, and it cannot stand inside.
 * @param holds the names of regions that may stand inside, as expressions; `undefined` for none
 */
export function enterRegion(
  out: Output,
  given: unknown,
  tag: string,
  more: string,
  holds: RegExp | undefined,
): boolean {
  const name = plain(given);
  const { recorder, settings } = out;
  if (!validName.test(name) || name === 'page' || name === 'none') complain(out, renderErrors.regionName(name));
  if (out.regions.has(name)) complain(out, renderErrors.regionTwice(name));
  out.regions.add(name);
  if (recorder) {
    if (recorder.only !== undefined && recorder.only !== name && !holds?.test(recorder.only)) return false;
    recorder.take(out);
    const region = makeRegion(name, tag, recorder.current);
    // An inner region counts by its name.
    recorder.current.digest.add(name);
    recorder.current.pieces.push(region);
    recorder.regions.set(name, region);
    recorder.current = region;
    if (recorder.only === name) recorder.muted = false;
  }
  out.s += `<${tag} data-region="${escapeText(name)}"${more}`;
  if (settings.mark !== undefined) printUncounted(out, ` data-mark="${settings.mark}"`);
  return true;
}

/** Ends the region at hand. */
export function leaveRegion(out: Output): void {
  const { recorder } = out;
  if (!recorder) return;
  recorder.take(out);
  const { name, parent } = recorder.current;
  if (recorder.only === name) throw new RegionDone();
  recorder.current = parent ?? recorder.page;
}

/** Whether calls and lists that hold no region may be left out: only one region is wanted, and this is not in it. */
export function skips(out: Output): boolean {
  return out.recorder?.muted === true;
}

/** Prints something that means nothing for what the page shows, as a token. */
export function printUncounted(out: Output, text: string): void {
  const { recorder } = out;
  if (!recorder) {
    out.s += text;
    return;
  }
  recorder.take(out);
  recorder.current.pieces.push(text);
}

/** The request’s nonce for a script or a style sheet that was written in a template. */
export function printNonce(out: Output): void {
  const { nonce } = out.context;
  if (nonce !== undefined) printUncounted(out, ` nonce="${escapeText(nonce)}"`);
}

/** Notes where the content of `<body>` begins. */
export function openBody(out: Output): void {
  const { recorder } = out;
  if (!recorder) return;
  recorder.take(out);
  recorder.bodyStart = recorder.page.pieces.length;
}

/** Notes where the content of `<body>` ends. */
export function closeBody(out: Output): void {
  const { recorder } = out;
  if (!recorder) return;
  recorder.take(out);
  recorder.bodyEnd = recorder.page.pieces.length;
}

/** The markup of a region; inner regions for which `keeps` holds are stubs. */
export function regionText(
  region: RegionNode,
  keeps: (inner: RegionNode) => boolean,
  from = 0,
  to = region.pieces.length,
): string {
  let text = '';
  for (const piece of region.pieces.slice(from, to)) {
    if (typeof piece === 'string') text += piece;
    else text += keeps(piece) ? regionStub(piece) : regionText(piece, keeps);
  }
  return text;
}

/** What stands for a region that the browser has already. */
export function regionStub({ tag, name }: RegionNode): string {
  return `<${tag} data-region="${escapeText(name)}" data-kept></${tag}>`;
}

function makeRegion(name: string, tag: string, parent: RegionNode | undefined): RegionNode {
  return { name, tag, pieces: [], digest: new Digest(), showsFlash: false, parent };
}

function complain(out: Output, error: ReturnType<typeof renderErrors.regionName>): void {
  if (out.settings.development) throw error;
  out.settings.notice({ code: error.code, message: error.message });
}
