/** Knowledge that the compiler and the run time share: attribute kinds, URL rules; a page while it is written: output, segments, regions, digests, readers. No Node API. */

export { assetPath } from './asset-path.ts';
export { type AttributeOwner, attributeKind } from './attribute-kinds.ts';
export {
  type Bindable,
  bindable,
  type CompletedControl,
  type ControlSite,
  type FieldSite,
  type Summary,
  type WrittenControl,
} from './bindable.ts';
export {
  type BuiltTemplate,
  type BuiltTemplates,
  builtFormat,
  flashTemplate,
  type LoadedTemplate,
  mergedSources,
  type PageSources,
  type TemplateFacts,
} from './built.ts';
export { Digest } from './digest.ts';
export { escapeText } from './escape.ts';
export { idlePatterns, type LayoutChooser, type LayoutRules, layoutByFolder } from './layout-rules.ts';
export { endOfTag, firstElementName, startOfContent } from './markup-start.ts';
export { baseOf, mountedFiles, mountedURL } from './mounting.ts';
export { allWritten } from './only-regions.ts';
export type { FieldsBeingShown, FormSecurity, FormTarget, OpenForm, RowsShown, ShownFields } from './open-forms.ts';
export {
  bare,
  type Fill,
  type Helpers,
  type LoomContext,
  type MakeHelpers,
  noFills,
  Output,
  type OutputSettings,
  printUncounted,
  type Render,
} from './output.ts';
export { isPromise, quiet, quieten } from './promises.ts';
export { PageReader, type ReadingSettings } from './reader.ts';
export { isMadeOf, isRegionName, makeRegion, Recorder, regionStub } from './recorder.ts';
export {
  digestOf,
  type Failure,
  firstFailure,
  innerRegions,
  isWaiting,
  newSegment,
  type PendingSegment,
  type RegionNode,
  type Rows,
  type Segment,
  segmentText,
  stopRows,
  whole,
} from './segments.ts';
export { Shelf } from './shelf.ts';
export { closeSource, isSource, openSource } from './sources.ts';
export { nextTask } from './tasks.ts';
export {
  encodedPath,
  pathText,
  type TrustedMarkup,
  type TrustedURL,
  trustedHTML,
  trustedMarkup,
  trustedURL,
  trustedURLText,
  type URLPath,
} from './trusted.ts';
export {
  defaultSchemes,
  isPlainPath,
  leadsAlike,
  readURL,
  refusedURL,
  schemeOf,
  seenByBrowser,
  settlesHost,
} from './url.ts';
