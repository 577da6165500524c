/** The wire: names that server and browser agree on, and the codecs of what headers and pages carry. */
export * from './attributes.ts';
export { bucketOf, foldDigests, mostBuckets } from './digest-buckets.ts';
export {
  type DigestList,
  type Digests,
  type FoldedRegions,
  readDigests,
  writeDigests,
} from './digest-list.ts';
export { digestText, mix } from './digest-text.ts';
export {
  allField,
  editField,
  formField,
  keptField,
  methodParameter,
  orderParameter,
  removeField,
  stateField,
  tokenField,
} from './fields.ts';
export { type AnswerKind, clientCookie, headers, pageRegion, vary } from './headers.ts';
export { type InspectedPart, inspectName, partEnd, partStart, readPartMark } from './inspection.ts';
export { lineMark, lineMarks } from './line-marks.ts';
export { readPageName, readRegionNames, writePageName, writeRegionNames } from './names.ts';
export { channelEvents, comparePositions } from './positions.ts';
