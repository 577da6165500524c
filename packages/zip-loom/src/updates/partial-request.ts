/** What the browser says of the page that it has, and wants: the headers of a request as plain data. */
import type { IncomingRequest } from '../http/index.ts';
import { type DigestList, headers as names, readDigests, readPageName, readRegionNames } from '../protocol/index.ts';

/** A request of the client’s, with what the browser has. */
export interface PartialRequest extends DigestList {
  /** The region the visitor acted in, or `page`. */
  region: string;
  /** The template and layouts of the page in the browser. */
  page: string;
  /** The only regions that are wanted; never an empty list. */
  only: readonly string[] | undefined;
}

/** Reads the headers of a request; `undefined` where no client asks. */
export function readPartialRequest(request: Pick<IncomingRequest, 'header'>): PartialRequest | undefined {
  const only = readRegionNames(request.header(names.only) ?? '');
  const region = request.header(names.region) ?? only?.[0];
  if (!region) return undefined;
  const list = readDigests(request.header(names.digests) ?? '');
  return { region, page: readPageName(request.header(names.page) ?? ''), ...list, only };
}
