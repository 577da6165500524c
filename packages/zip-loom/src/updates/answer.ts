/** A page that was rendered with its regions kept apart → what the browser is sent of it. */

import {
  endOfTag,
  escapeText,
  firstElementName,
  innerRegions,
  type Recorder,
  type RegionNode,
  regionStub,
  type Segment,
  segmentText,
  startOfContent,
} from '../kernel/index.ts';
import {
  channelsAttribute,
  digestsAttribute,
  markAttribute,
  mergeIntoAttribute,
  pageAttribute,
  pageRegion,
  positionAttribute,
  tokenAttribute,
  writeDigests,
} from '../protocol/index.ts';
import { headMarkup, tokenMarkup } from './change-markup.ts';
import { Comparison, digestsBelow } from './comparison.ts';
import type { PartialRequest } from './partial-request.ts';

/** A rendered page and what belongs to its answer. */
export interface RenderedPage {
  /** The page’s template and layouts. */
  name: string;
  recorder: Recorder;
  /** Proves regions and lists to be the server’s. */
  mark: string;
  /** The session’s token, for the forms that stay on the page. */
  token: string | undefined;
  /** Markup of style sheets and scripts that its parts cannot do without. */
  placed: readonly string[];
  /** Where changes of channels come from, and how far these were when the page was asked for. */
  channels: Channels | undefined;
}

interface Channels {
  url: string;
  position: string;
}

export type Answer =
  /** The regions of those names. */
  | { kind: 'parts'; body: string; sent: readonly string[]; showsFlash: boolean }
  /** Another page: the browser goes there itself. */
  | { kind: 'none' }
  /** Another page after a form that was sent: it cannot be asked for again. */
  | { kind: 'page' };

/**
 * Decides what differs.
 * @param isSafe whether the page would be the same if it were asked for again
 * @param refused whether the status says that the request was refused: then only the asking region and messages are sent
 */
export function answerParts(page: RenderedPage, asked: PartialRequest, isSafe: boolean, refused: boolean): Answer {
  const { recorder } = page;
  const asksPage = asked.region === pageRegion;
  const isSame = asked.page === page.name && (asksPage || recorder.regions.has(asked.region));
  // Whoever asks on behalf of the whole page takes another one too.
  if (!isSame) return { kind: isSafe && !asksPage ? 'none' : 'page' };
  const comparison = new Comparison(recorder, asked);
  const differs = (region: RegionNode) => {
    if (region.name === asked.region && !isSafe) return true;
    if (refused && !asksPage) return region.name === asked.region || region.showsFlash;
    return comparison.differs(region);
  };
  const keeps = (region: RegionNode) => !holdsDifferent(region, differs);
  const parts: string[] = [];
  const sent: RegionNode[] = [];
  let showsFlash = false;
  const noteFlash = (region: RegionNode): void => {
    showsFlash ||= region.showsFlash;
    for (const inner of innerRegions(region)) if (!keeps(inner)) noteFlash(inner);
  };
  const send = (region: RegionNode, content: Segment = region) => {
    noteFlash(region);
    sent.push(region);
    // An inner region that is unchanged becomes a stub, one that changed comes whole.
    const text = segmentText(content, (inner) => (!differs(inner) && keeps(inner) ? regionStub(inner) : undefined));
    parts.push(`<template ${mergeIntoAttribute}="${escapeText(region.name)}">${text}</template>`);
  };
  const walk = (region: RegionNode): void => {
    for (const inner of innerRegions(region)) {
      if (differs(inner)) send(inner);
      else walk(inner);
    }
  };
  let start = titleOf(recorder);
  if (differs(recorder.page)) {
    start += documentTags(recorder);
    send(recorder.page, bodyOf(recorder.page));
  } else walk(recorder.page);
  // After a refusal the browser keeps what was not sent, whatever it is now.
  const list =
    refused && !asksPage
      ? writeDigests(sent.flatMap(digestsBelow))
      : writeDigests(comparison.news(), comparison.counts());
  const body = start + parts.join('\n') + closing(page, list);
  return { kind: 'parts', body, sent: sent.map(({ name }) => name), showsFlash };
}

/** The regions that were asked for, or nothing where none of them is on the page. */
export function answerOnly(page: RenderedPage, only: readonly string[], asked: PartialRequest): Answer {
  const wanted = new Set(only.flatMap((name) => page.recorder.regions.get(name) ?? []));
  // One that is inside another comes with it.
  const regions = [...wanted].filter((region) => !isInside(region, wanted));
  if (regions.length === 0) return { kind: 'none' };
  const parts = regions.map(
    (region) => `<template ${mergeIntoAttribute}="${escapeText(region.name)}">${segmentText(region)}</template>`,
  );
  // A region may come from another page than the one it is shown on.
  const head = asked.page === page.name ? '' : `\n${headMarkup(page.placed)}`;
  const showsFlash = regions.some((region) => region.showsFlash);
  return {
    kind: 'parts',
    body: parts.join('\n') + head + closing(page, writeDigests(regions.flatMap(digestsBelow))),
    sent: regions.map(({ name }) => name),
    showsFlash,
  };
}

function isInside({ parent }: RegionNode, regions: ReadonlySet<RegionNode>): boolean {
  return parent !== undefined && (regions.has(parent) || isInside(parent, regions));
}

/** What a whole page ends with: its name, and where a client runs the digests of its regions. */
export function pageList(
  name: string,
  mark: string,
  recorder: Recorder | undefined,
  { channels, token }: { channels?: Channels | undefined; token?: string | undefined } = {},
): string {
  return listElement(name, mark, recorder && writeDigests(digestsBelow(recorder.page)), { channels, token });
}

function closing({ name, mark, token, channels }: RenderedPage, digests: string): string {
  return `\n${tokenMarkup(token)}${listElement(name, mark, digests, { channels })}\n`;
}

function listElement(
  name: string,
  mark: string,
  digests: string | undefined,
  { channels, token }: { channels?: Channels | undefined; token?: string | undefined },
): string {
  const list = digests === undefined ? '' : ` ${digestsAttribute}="${escapeText(digests)}"`;
  const from = channels
    ? ` ${channelsAttribute}="${escapeText(channels.url)}" ${positionAttribute}="${escapeText(channels.position)}"`
    : '';
  const own = token === undefined ? '' : ` ${tokenAttribute}="${escapeText(token)}"`;
  return `<template ${pageAttribute}="${escapeText(name)}" ${markAttribute}="${mark}"${list}${from}${own}></template>`;
}

/** Whether a region or one inside it has changed. */
function holdsDifferent(region: RegionNode, differs: (region: RegionNode) => boolean): boolean {
  return differs(region) || innerRegions(region).some((inner) => holdsDifferent(inner, differs));
}

/** What is before the content of `<body>`. */
function headOf(recorder: Recorder): string {
  const { pieces } = recorder.page;
  return segmentText({ pieces: pieces.slice(0, Math.max(0, placeOf('body-start', pieces))), digest: undefined });
}

/** The start tags of `<html>` and `<body>`, whose attributes belong to the page: language, direction, colour scheme. */
function documentTags(recorder: Recorder): string {
  const head = headOf(recorder);
  const first = startOfContent(head);
  const html = firstElementName(head) === 'html' ? head.slice(first, Math.max(first, endOfTag(head, first))) : '';
  const last = head.toLowerCase().lastIndexOf('<body');
  const body = last !== -1 && endOfTag(head, last) === head.length ? head.slice(last) : '';
  return html || body ? `${html}${body}\n` : '';
}

/** The page’s `<title>`, as it is in its head. */
function titleOf(recorder: Recorder): string {
  const head = headOf(recorder);
  const start = head.search(/<title[\s>]/i);
  const end = start === -1 ? -1 : head.slice(start).search(/<\/title/i);
  return end === -1 ? '\n' : `${head.slice(start, start + end)}</title>\n`;
}

/** What is between the tags of `<body>`; everything, where there are none. */
function bodyOf({ pieces }: Segment): Segment {
  const end = placeOf('body-end', pieces);
  const content = pieces.slice(placeOf('body-start', pieces) + 1, end === -1 ? undefined : end);
  return { pieces: content, digest: undefined };
}

function placeOf(kind: 'body-start' | 'body-end', pieces: Segment['pieces']): number {
  return pieces.findIndex((piece) => typeof piece !== 'string' && piece.kind === kind);
}
