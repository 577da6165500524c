/** What compiled templates call: escaping, attributes, addresses, output, helpers. No dependency, no Node API. */

export type { Diagnostic } from '../diagnostics/index.ts';
export { assetHelper, assetPath, type NamedFile } from './assets.ts';
export { type AttributeKind, type AttributeOwner, attributeKind } from './attribute-kinds.ts';
export {
  attribute,
  attributeList,
  booleanAttribute,
  enumeratedAttribute,
  furtherToken,
  tokens,
  tokensAttribute,
  type WrittenAttribute,
} from './attributes.ts';
export {
  type Bindable,
  bindable,
  bound,
  type CompletedControl,
  type ControlSite,
  control,
  controlAt,
  controlSite,
  type FieldSite,
  fieldSite,
  labelFor,
  printErrors,
  type WrittenControl,
} from './binding.ts';
export {
  type BuiltTemplate,
  type BuiltTemplates,
  builtFormat,
  type LoadedTemplate,
  mergedSources,
  type PageSources,
  type TemplateFacts,
} from './built.ts';
export { Digest } from './digest.ts';
export { createHelpers, type Helpers, helperNames, type Place } from './helpers/index.ts';
export { jsonStringPart, jsonValue, trustedJSONValue } from './json.ts';
export { type LayoutChooser, type LayoutRules, layoutByFolder } from './layout-rules.ts';
export { each } from './lists.ts';
export {
  bare,
  descend,
  type Fill,
  type Fills,
  type LoomContext,
  noFills,
  noteUndefined,
  Output,
  type OutputSettings,
  over,
  type Render,
  written,
} from './output.ts';
export { PageReader, type Reading, type ReadingSettings } from './page-reader.ts';
export { closeForm, type FormSecurity, noteBase, noteSubmitter, openForm } from './posting.ts';
export { isPromise, quiet, quieten } from './promises.ts';
export { readURL } from './read-url.ts';
export {
  closeBody,
  closeHead,
  enterRegion,
  leaveRegion,
  openBody,
  printNonce,
  printUncounted,
  printWayBack,
  Recorder,
  RegionDone,
  regionStub,
  skips,
} from './regions.ts';
export {
  digestOf,
  type Failure,
  firstFailure,
  type Hole,
  innerRegions,
  isWaiting,
  newSegment,
  type Piece,
  type RegionNode,
  type Rows,
  type Segment,
  segmentText,
  stopRows,
  whole,
} from './segments.ts';
export { closeSource, isSource } from './sources.ts';
export { declaration } from './styles.ts';
export { nextTask } from './tasks.ts';
export { attributeText, escapeText, plain, text, textAfterStartTag } from './text.ts';
export { type TrustedMarkup, type TrustedURL, trustedHTML, trustedURL, type URLPath } from './trusted.ts';
export {
  addressOf,
  codeURLAttribute,
  defaultSchemes,
  imageURL,
  imageURLAttribute,
  judgedURL,
  onePartURL,
  pathURL,
  schemeOf,
  settlesHost,
  unquotedURL,
  url,
  urlAttribute,
  urlDescriptor,
  urlList,
  urlListAttribute,
  urlListItem,
  urlTokens,
  urlTokensAttribute,
} from './urls.ts';
export { wait } from './waiting.ts';
