/**
 * Exactly what compiled templates call: escaping, attributes, URLs, lists, waiting, forms, regions; and the helpers, which they are
 * given. Generated code imports from here, so whatever is added has to stay.
 */
export { escapeText, noFills, quiet } from '../kernel/index.ts';
export {
  attribute,
  attributeList,
  booleanAttribute,
  enumeratedAttribute,
  furtherToken,
  momentAttribute,
  tokens,
  tokensAttribute,
} from './attributes.ts';
export { allBox, bound, control, controlAt, controlSite, fieldSite, labelFor, printErrors } from './binding.ts';
export { descend, over, written } from './calls.ts';
export { mailAddress, mailHeader, telephoneNumber } from './contact-urls.ts';
export {
  closeForm,
  editButton,
  noteBase,
  noteFile,
  noteFirstSubmitter,
  noteSubmitter,
  openForm,
  printFirstSubmitter,
  printFirstToken,
} from './form-elements.ts';
export { createHelpers, helperNames, type LocaleSettings } from './helpers/index.ts';
export { canonicalLocale, isLocale, isTimeZone } from './helpers/locales.ts';
export { jsonStringPart, jsonValue, trustedJSONValue } from './json.ts';
export { each } from './lists.ts';
export { called, noteUndefined, readPart } from './parts.ts';
export {
  closeBody,
  closeHead,
  closeTitle,
  enterRegion,
  leaveRegion,
  openBody,
  openTitle,
  printMark,
  printNonce,
  printWayBack,
  skips,
} from './regions.ts';
export { declaration } from './styles.ts';
export { attributePart, plain, text, textAfterStartTag } from './text.ts';
export { urlDescriptor, urlListAttribute, urlListItem, urlTokensAttribute } from './url-lists.ts';
export {
  codeURLAttribute,
  imageURLAttribute,
  judgedURL,
  onePartURL,
  pathURL,
  unquotedURL,
  urlAttribute,
  urlOf,
} from './urls.ts';
export { wait } from './waiting.ts';
