/** What regions and the ends of `<head>` and `<body>` call. */
import { type Diagnostic, RenderError } from '../diagnostics/index.ts';
import {
  allWritten,
  escapeText,
  isMadeOf,
  isRegionName,
  makeRegion,
  type Output,
  printUncounted,
} from '../kernel/index.ts';
import { channelAttribute, markAttribute, regionAttribute } from '../protocol/index.ts';
import { renderDiagnostic } from './diagnostics.ts';
import { plain } from './text.ts';

/**
 * Begins a region. False where its body need not run: another region is wanted, and it cannot be inside.
 * @param holds the names of regions that may be inside: `true` for any, else the fixed texts of each around its values
 */
export function enterRegion(
  out: Output,
  given: unknown,
  tag: string,
  more: string,
  holds: true | ReadonlyArray<readonly string[]>,
): boolean {
  const name = plain(given);
  const { recorder, settings } = out;
  if (!isRegionName(name)) report(out, renderDiagnostic('invalid-region-name', { name }));
  if (out.regions.has(name)) report(out, renderDiagnostic('duplicate-region', { name }));
  out.regions.add(name);
  out.usesChannels ||= settings.development === true && more.includes(` ${channelAttribute}="`);
  if (recorder) {
    const { only } = recorder;
    if (only && only.open === undefined && (isDone(out) || (!only.names.has(name) && !mayHoldWanted(holds, only))))
      return false;
    out.take();
    const region = makeRegion(name, tag, recorder.current);
    region.outer = out.segment;
    // An inner region counts by its name.
    out.segment.digest?.add(name);
    out.segment.pieces.push(region);
    recorder.regions.set(name, region);
    recorder.current = region;
    out.segment = region;
    if (only?.names.has(name)) only.open ??= name;
  }
  out.s += `<${tag} ${regionAttribute}="${escapeText(name)}"${more}`;
  if (settings.mark !== undefined) printUncounted(out, ` ${markAttribute}="${settings.mark}"`);
  return true;
}

/**
 * The server's mark on an element that makes the client send something.
 * @param isAsked true to print it only if the attributes that were handed on ask for it
 */
export function printMark(out: Output, isAsked = false): void {
  const { mark } = out.settings;
  if (isAsked && !out.sends) return;
  out.sends = false;
  if (mark !== undefined) printUncounted(out, ` ${markAttribute}="${mark}"`);
}

function mayHoldWanted(
  holds: true | ReadonlyArray<readonly string[]>,
  { names, written }: { names: ReadonlySet<string>; written: ReadonlyMap<string, unknown> },
): boolean {
  for (const name of names) if (!written.has(name) && mayHold(holds, name)) return true;
  return false;
}

function mayHold(holds: true | ReadonlyArray<readonly string[]>, name: string): boolean {
  return holds === true || holds.some((texts) => isMadeOf(name, texts));
}

/** Ends the region at hand. */
export function leaveRegion(out: Output): void {
  const { recorder } = out;
  if (!recorder) return;
  out.take();
  const { current, only } = recorder;
  const { name, parent, outer } = current;
  if (only?.names.has(name)) {
    only.written.set(name, current);
    if (only.open === name) only.open = undefined;
  }
  recorder.current = parent ?? recorder.page;
  out.segment = outer ?? recorder.page;
}

/** Whether calls and lists that hold no region may be left out: only some regions are wanted, and this is in none of them. */
export function skips(out: Output): boolean {
  const only = out.recorder?.only;
  return only !== undefined && only.open === undefined;
}

/** Whether the only regions that are wanted are written: no part that could hold one need run. */
export function isDone(out: Output): boolean {
  const only = out.recorder?.only;
  return only !== undefined && only.open === undefined && allWritten(only);
}

/** The request’s nonce for a script or a style sheet that was written in a template. */
export function printNonce(out: Output): void {
  const { nonce } = out.context;
  if (nonce !== undefined) printUncounted(out, ` nonce="${escapeText(nonce)}"`);
}

/** Begins the text of the page’s title, which every answer has: it does not count. */
export function openTitle(out: Output): void {
  if (out.recorder) out.take();
}

/** Ends the text of the title. */
export function closeTitle(out: Output): void {
  const { recorder, s } = out;
  if (!recorder || recorder.isInBody || recorder.current !== recorder.page) return;
  out.s = '';
  printUncounted(out, s);
}

/** Notes where the content of `<body>` begins. */
export function openBody(out: Output): void {
  if (!out.recorder) return;
  out.recorder.isInBody = true;
  out.take();
  out.segment.pieces.push({ kind: 'body-start' });
}

/** Notes where the content of `<body>` ends, in a page that something is added to. */
export function closeBody(out: Output): void {
  if (out.settings.mark === undefined) return;
  out.take();
  out.segment.pieces.push({ kind: 'body-end' });
}

/**
 * The way back to a page in source order, for browsers that run no scripts: content that came late would stay at its end. In
 * `<head>` such an element may hold a refresh (HTML §4.12.2).
 */
export function printWayBack(out: Output): void {
  const { sending } = out.settings;
  const wayBack = sending?.kind === 'late' ? sending.wayBack : undefined;
  // Printed or not, the text around it is cut here: digests count the pieces.
  printUncounted(
    out,
    wayBack === undefined
      ? ''
      : `<noscript><meta http-equiv="refresh" content="0; url=${escapeText(wayBack)}"></noscript>`,
  );
}

/** Prints what the answer adds to `<head>`, at its end. */
export function closeHead(out: Output): void {
  // As above, the text is cut in any case.
  printUncounted(out, out.settings.atHeadEnd ?? '');
}

function report(out: Output, diagnostic: Diagnostic): void {
  if (out.settings.development) throw new RenderError(diagnostic);
  out.settings.note(diagnostic);
}
