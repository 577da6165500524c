/** A change by name → the element that tells the browser of it. */
import { escapeText, firstElementName } from '../kernel/index.ts';
import {
  headAttribute,
  markAttribute,
  putAttribute,
  reloadAttribute,
  removeAttribute,
  tokenAttribute,
  wrappedAttribute,
} from '../protocol/index.ts';
import { actionOf, type Change } from './change.ts';

/**
 * @param html what is put
 * @param mark proves regions in it to be the server’s
 */
export function changeMarkup(change: Change, html: string, mark: string): string {
  const action = actionOf(change);
  const target = escapeText(action.target);
  if (action.kind === 'remove') return `<template ${removeAttribute}="${target}"></template>\n`;
  if (action.kind === 'reload') return `<template ${reloadAttribute}="${target}"></template>\n`;
  const wrapper = wrapperOf(html);
  const start = `<template ${putAttribute}="${action.place} ${target}" ${markAttribute}="${mark}"`;
  if (wrapper === undefined) return `${start}>${html}</template>\n`;
  return `${start} ${wrappedAttribute}><${wrapper}>${html}</${wrapper}></template>\n`;
}

/** Style sheets and scripts that go with an answer. */
export function headMarkup(placed: readonly string[]): string {
  return placed.length > 0 ? `<template ${headAttribute}>${placed.join('')}</template>\n` : '';
}

/** The session’s token, for the forms that stay on the page. */
export function tokenMarkup(token: string | undefined): string {
  return token === undefined ? '' : `<template ${tokenAttribute}="${escapeText(token)}"></template>\n`;
}

/** The element without which a parser would take SVG or MathML for HTML; nothing where the content is HTML. */
function wrapperOf(html: string): 'svg' | 'math' | undefined {
  const found = firstElementName(html);
  if (ofSVG.has(found)) return 'svg';
  return ofMathML.has(found) ? 'math' : undefined;
}

/** Elements of SVG 2 that HTML does not have. */
const ofSVG = new Set(
  `animate animatemotion animatetransform circle clippath defs desc ellipse feblend fecolormatrix fecomponenttransfer fecomposite
  feconvolvematrix fediffuselighting fedisplacementmap fedropshadow feflood fegaussianblur feimage femerge feoffset fespecularlighting
  fetile feturbulence filter foreignobject g image line lineargradient marker mask metadata mpath path pattern polygon polyline
  radialgradient rect set stop switch symbol text textpath tspan use view`.split(/\s+/),
);

/** Elements of MathML Core that HTML does not have, but for `math` itself. */
const ofMathML = new Set(
  `annotation annotation-xml maction merror mfrac mi mmultiscripts mn mo mover mpadded mphantom mprescripts mroot mrow ms mspace msqrt
  mstyle msub msubsup msup mtable mtd mtext mtr munder munderover semantics`.split(/\s+/),
);
