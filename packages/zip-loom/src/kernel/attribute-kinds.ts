/**
 * What kind of value each attribute of HTML and SVG holds. The compiler asks for attributes that are written in a template,
 * the run-time for those that come in a list, so that both follow the same rules.
 */

export type AttributeKind =
  /** Escaped text. */
  | 'plain'
  /** Present or missing, by truthiness. */
  | 'boolean'
  /** `true` and `false` are printed as words. */
  | 'enumerated'
  /** A list of tokens: arrays are joined with spaces. */
  | 'tokens'
  /** One URL. */
  | 'url'
  /** One URL of an image, which may also be `data:image/…`. */
  | 'image-url'
  /** Image candidates: URLs with descriptors. */
  | 'url-list'
  /** URLs with whitespace between them. */
  | 'url-tokens'
  /** The URL of code: trusted, or with an origin that fixed text settles. */
  | 'code-url'
  /** The same for what a drawing uses, where a part of this document needs no trust: `#berth`. */
  | 'drawing-url'
  /** A date or time: a `Date` becomes ISO 8601 text. */
  | 'moment'
  | 'style'
  /** Never substituted. */
  | 'refused';

/** What the kind of an attribute may depend on besides its name. */
export interface AttributeOwner {
  /** The element’s name in lower case. */
  name: string;
  /** The fixed `rel` of a `<link>`; `undefined` where it is missing or not fixed. */
  rel?: string | undefined;
  /** Whether it is a `<meta>` that sends the visitor on. */
  refresh?: boolean;
  /** Whether the element has a written `sandbox`, where a list of attributes is judged. */
  sandboxed?: boolean;
  /** Whether the element is in SVG, where some names mean something else. */
  svg?: boolean;
}

const words = (list: string): ReadonlySet<string> => new Set(list.split(' '));

/** HTML §“Attributes”, those of the type “Boolean attribute”. */
const booleans = words(
  'allowfullscreen alpha async autofocus autoplay checked controls default defer disabled formnovalidate inert ismap itemscope ' +
    'loop multiple muted nomodule novalidate open playsinline readonly required reversed selected shadowrootclonable ' +
    'shadowrootdelegatesfocus shadowrootserializable compact declare nohref noresize noshade nowrap',
);

/** Attributes whose keywords are `true` and `false`; `aria-*` is treated likewise (WAI-ARIA §10.2). */
const enumerated = words(
  'contenteditable draggable spellcheck writingsuggestions autoreverse externalresourcesrequired focusable preservealpha',
);

const tokenLists = words(
  'class rel sizes sandbox headers itemprop itemref itemtype accesskey blocking part autocomplete for aria-controls aria-describedby ' +
    'aria-details aria-errormessage aria-flowto aria-labelledby aria-owns',
);

const urls = words(
  'href src action formaction cite data poster background longdesc manifest codebase classid archive profile usemap lowsrc dynsrc ' +
    'icon itemid xlink:href',
);

const urlLists = words('srcset imagesrcset');

const never = words('srcdoc shadowrootmode is charset http-equiv');

/** SVG §“Animation elements”: attributes that choose and set another attribute. */
const animation = words('attributename to from by values');

/** The animation elements themselves: a partial may be called inside a drawing that is in another file. */
const animations = words('set animate animatemotion animatetransform animatecolor');

/** The kind of the attribute `name` (in lower case) on an element. */
export function attributeKind(owner: AttributeOwner, name: string): AttributeKind {
  if (name.startsWith('on') || never.has(name) || owner.name === 'font') return 'refused';
  if (name === 'type' && owner.name === 'script') return 'refused';
  if (name === 'encoding' && owner.name === 'annotation-xml') return 'refused';
  if ((owner.svg || animations.has(owner.name)) && animation.has(name)) return 'refused';
  // A written sandbox is a promise that data must not loosen.
  if (name === 'sandbox' && owner.sandboxed) return 'refused';
  // What is written decides how the URL is judged, so data cannot make another kind of it.
  if (name === 'content' && owner.refresh) return 'refused';
  if (name === 'rel' && owner.name === 'link' && owner.rel !== undefined) return 'refused';
  if (name === 'style') return 'style';
  if (urls.has(name)) return urlKind(owner, name);
  if (urlLists.has(name)) return 'url-list';
  if (name === 'ping') return 'url-tokens';
  if (name === 'datetime') return 'moment';
  if (booleans.has(name)) return 'boolean';
  if (tokenLists.has(name)) return name === 'for' && owner.name !== 'output' ? 'plain' : 'tokens';
  if (enumerated.has(name) || name.startsWith('aria-')) return 'enumerated';
  return 'plain';
}

function urlKind(owner: AttributeOwner, name: string): AttributeKind {
  switch (`${owner.name} ${name}`) {
    case 'script src':
    case 'script href':
    case 'script xlink:href':
    case 'embed src':
    case 'object data':
    case 'object codebase':
    case 'object classid':
    // Relative URLs of scripts and style sheets follow the first; the others bring or change code of a drawing.
    case 'base href':
      return 'code-url';
    case 'use href':
    case 'use xlink:href':
    case 'set href':
    case 'set xlink:href':
    case 'animate href':
    case 'animate xlink:href':
    case 'animatemotion href':
    case 'animatemotion xlink:href':
    case 'animatetransform href':
    case 'animatetransform xlink:href':
      return 'drawing-url';
    case 'link href':
      return owner.rel === undefined || /(^|\s)(stylesheet|modulepreload)(\s|$)/i.test(owner.rel) ? 'code-url' : 'url';
    case 'img src':
    case 'input src':
    case 'video poster':
    case 'image href':
    case 'image xlink:href':
    case 'feimage href':
    case 'feimage xlink:href':
      return 'image-url';
    default:
      return name === 'background' ? 'image-url' : 'url';
  }
}
