/** Requests and answers as the library sees them, whatever server they belong to; and the Fetch standard’s beside them. */
export { assertRequest } from './assert-request.ts';
export { byteStream } from './byte-stream.ts';
export { FetchBody } from './fetch-body.ts';
export { carriesIncoming, incomingOf } from './fetch-incoming.ts';
export {
  type BodyBytes,
  type BodyLimits,
  type BodyText,
  type Ending,
  type IncomingRequest,
  incomingKey,
  type ServerObjects,
} from './incoming.ts';
export { isPairResponse, type PairAnswerer, type PairRequest, type PairResponse } from './pair.ts';
export { type Reply, ReplyHeaders, type TextSource } from './reply.ts';
export { responseOfReply } from './reply-response.ts';
