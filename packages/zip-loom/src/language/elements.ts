/** What the HTML standard says about elements by name. All names are in lower case. */
import { keyword, trimSpace } from './whitespace.ts';

/** HTML §13.1.2: elements without content or end tag; the last row is what the parser still treats so. */
export const voidElements = new Set(
  ('area base br col embed hr img input link meta source track wbr ' + 'basefont bgsound frame keygen param').split(
    ' ',
  ),
);

/**
 * Elements of SVG that are mostly written without content. Outside of `<svg>`, as in what fills a slot of a drawing or in a partial
 * for one, nobody knows yet where they will be; `/>` ends them there too.
 */
export const emptyShapes = new Set(
  (
    'circle ellipse line path polygon polyline rect image use stop set animate animatemotion animatetransform mpath view ' +
    'feblend fecolormatrix fecomposite fedisplacementmap fedropshadow feflood fefunca fefuncb fefuncg fefuncr fegaussianblur ' +
    'feimage femergenode femorphology feoffset fetile feturbulence'
  ).split(' '),
);

/** Names with a hyphen that belong to SVG and MathML (HTML §4.13.3), so they are never calls. */
const reservedHyphenNames = new Set(
  'annotation-xml color-profile font-face font-face-src font-face-uri font-face-format font-face-name missing-glyph'.split(
    ' ',
  ),
);

/** Whether a tag of this name may call a template: it holds a hyphen, as custom elements do, and only plain letters. */
export function isCallName(name: string): boolean {
  return name.includes('-') && /^[a-z][a-z0-9._-]*$/.test(name) && !reservedHyphenNames.has(name);
}

/** Script types whose body is JSON (HTML §4.12.1, WHATWG MIME Sniffing §4.6 “JSON MIME type”). */
export function isJSONScriptType(type: string): boolean {
  const essence = trimSpace(keyword(type).split(';')[0]!);
  return (
    essence === 'importmap' ||
    essence === 'speculationrules' ||
    /^(application|text)\/json$|^[^/]+\/[^/]+\+json$/.test(essence)
  );
}

const closedByBlocks = new Set(
  (
    'address article aside blockquote center details dialog dir div dl fieldset figcaption figure footer form h1 h2 h3 h4 h5 ' +
    'h6 header hgroup hr main menu nav ol p pre search section table ul'
  ).split(' '),
);

/**
 * HTML §13.1.2.4: whether the start of `next` ends an open `open` element whose end tag was left out.
 * Only what a template's tree needs: which element is inside which.
 */
export function startEnds(open: string, next: string): boolean {
  switch (open) {
    case 'p':
      return closedByBlocks.has(next);
    case 'li':
      return next === 'li';
    case 'dt':
    case 'dd':
      return next === 'dt' || next === 'dd';
    case 'rt':
    case 'rp':
      return next === 'rt' || next === 'rp';
    case 'option':
      return next === 'option' || next === 'optgroup' || next === 'hr';
    case 'optgroup':
      return next === 'optgroup' || next === 'hr';
    case 'td':
    case 'th':
      return next === 'td' || next === 'th' || next === 'tr' || next === 'tbody' || next === 'tfoot';
    case 'tr':
      return next === 'tr' || next === 'tbody' || next === 'tfoot';
    case 'thead':
    case 'tbody':
    case 'tfoot':
      return next === 'tbody' || next === 'tfoot';
    case 'colgroup':
      return next === 'thead' || next === 'tbody' || next === 'tfoot' || next === 'tr' || next === 'colgroup';
    case 'caption':
      return next === 'colgroup' || next === 'thead' || next === 'tbody' || next === 'tfoot' || next === 'tr';
    case 'head':
      return next === 'body';
    default:
      return false;
  }
}

/** HTML §13.2.6.5: start tags that end SVG or MathML content when they appear in it. */
export const foreignBreakouts = new Set(
  (
    'b big blockquote body br center code dd div dl dt em embed h1 h2 h3 h4 h5 h6 head hr i img li listing menu meta nobr ol p ' +
    'pre ruby s small span strong strike sub sup table tt u ul var'
  ).split(' '),
);

/** HTML §13.2.6: elements of SVG and MathML inside which HTML is read again. */
export const svgIntegrationPoints = new Set(['foreignobject', 'desc', 'title']);
export const mathIntegrationPoints = new Set(['mi', 'mo', 'mn', 'ms', 'mtext']);
