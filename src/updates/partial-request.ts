/** What the browser says of the page that it has, and wants: the headers of a request as plain data. */
import type { IncomingRequest } from '../http/index.ts';
import { type Digests, headers as names, readDigests } from '../protocol/index.ts';

/** A request of the client’s. */
export interface PartialRequest {
  /** The region the visitor acted in, or `page`. */
  region: string;
  /** The template and layouts of the page in the browser. */
  page: string;
  /** What the browser has. */
  digests: Digests;
  /** The one region that is wanted. */
  only: string | undefined;
}

/** Reads the headers of a request; `undefined` where no client asks. */
export function readPartialRequest(request: Pick<IncomingRequest, 'header'>): PartialRequest | undefined {
  const only = request.header(names.only) || undefined;
  const region = request.header(names.region) ?? only;
  if (!region) return undefined;
  const digests = readDigests(request.header(names.digests) ?? '');
  return { region, page: request.header(names.page) ?? '', digests, only };
}
