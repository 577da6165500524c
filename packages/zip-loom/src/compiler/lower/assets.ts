/** Files of the project that templates name by relative URLs: style sheets, scripts, images. */

import type { Node } from 'acorn';
import { decodeHTMLAttribute } from 'entities';
import { nearest, type Report, type Span } from '../../diagnostics/index.ts';
import { assetPath, escapeText } from '../../kernel/index.ts';
import {
  type Attribute,
  attributeOf,
  type Element,
  type Expression,
  fixedValue,
  isSpace,
  skipSpace,
  type TemplateNode,
  visit,
} from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';

/** The files of the project, and who is told of one that is missing. */
export interface ProjectFiles {
  /** Paths → URLs; missing where the project has none. */
  assets: ReadonlyMap<string, string> | undefined;
  report: Report;
}

/** Attributes of any element whose URL may be that of a file. */
const urls: ReadonlySet<string> = new Set(['href', 'src', 'poster', 'xlink:href']);

/** Attributes with several URLs, each with a condition after it (HTML §4.8.4.2.1). */
const lists: ReadonlySet<string> = new Set(['srcset', 'imagesrcset']);

/** Whether an attribute may name files of the project. */
export function namesFiles({ name }: Attribute): boolean {
  return name === 'style' || urls.has(name) || lists.has(name);
}

/**
 * The attribute with the URLs of its files, or the very same where it names none. Files that should be there and are not
 * are reported.
 */
export function withAssets(element: Element, attribute: Attribute, project: ProjectFiles): Attribute {
  if (!project.assets || !attribute.value || !namesFiles(attribute)) return attribute;
  const needed = needsFile(element, attribute.name);
  if (attribute.name === 'style') return changeTexts(attribute, (text) => assetsOfStyle(text, attribute, project));
  const isFixed = attribute.value.every((part) => part.kind === 'text');
  if (!isFixed) return attribute;
  if (urls.has(attribute.name))
    return changeTexts(attribute, (text) => assetURL(text, needed ? attribute : undefined, project));
  return changeTexts(attribute, (text) =>
    changeCandidates(text, (href) => assetURL(href, needed ? attribute : undefined, project)),
  );
}

/** Image candidates with other URLs (HTML §4.8.4.2.2). */
function changeCandidates(text: string, change: (href: string) => string): string {
  let result = '';
  let at = 0;
  const take = (isPart: (character: string) => boolean): string => {
    const start = at;
    while (at < text.length && isPart(text[at]!)) at++;
    return text.slice(start, at);
  };
  const isBlank = (character: string) => isSpace(character.charCodeAt(0));
  while (at < text.length) {
    result += take((character) => character === ',' || isBlank(character));
    const candidate = take((character) => !isBlank(character));
    let end = candidate.length;
    // A candidate may end in the comma that separates it from the next.
    while (candidate[end - 1] === ',') end--;
    result += (end === 0 ? '' : change(candidate.slice(0, end))) + candidate.slice(end);
    if (end === candidate.length) result += take((character) => character !== ',');
  }
  return result;
}

/** A style sheet with the URLs of its files in `url(…)` (CSS Values §4.5). */
export function assetsOfStyle(css: string, place: Span, project: ProjectFiles): string {
  if (!project.assets) return css;
  let result = '';
  let copied = 0;
  const token = /url\(/gi;
  for (let found = token.exec(css); found; found = token.exec(css)) {
    const argument = urlArgument(css, token.lastIndex);
    if (!argument) continue;
    const changed = assetURL(argument.href, place, project);
    if (changed !== argument.href) {
      result += `${css.slice(copied, found.index)}url("${changed.replaceAll('"', '%22')}")`;
      copied = argument.end;
    }
    token.lastIndex = argument.end;
  }
  return result + css.slice(copied);
}

/** What is between the parentheses of `url(…)`, and where it ends; `undefined` where it is not one plain URL. */
function urlArgument(css: string, from: number): { href: string; end: number } | undefined {
  const start = skipSpace(css, from);
  const quote = css[start] === '"' || css[start] === "'" ? css[start] : '';
  let at = start + quote.length;
  while (at < css.length && (quote ? css[at] !== quote && css[at] !== '\n' : !endsBareURL(css[at]!))) {
    at += quote && css[at] === '\\' ? 2 : 1;
  }
  const end = skipSpace(css, at + quote.length);
  if (css[end] !== ')' || (quote && css[at] !== quote)) return undefined;
  return { href: css.slice(start + quote.length, at), end: end + 1 };
}

/** CSS Syntax §4.3.6, “consume a url token”. */
function endsBareURL(character: string): boolean {
  return isSpace(character.charCodeAt(0)) || '"\'()\\'.includes(character);
}

/** Reports `asset("…")` with the name of a file that is not there. */
export function checkAssetCalls(expression: Expression, project: ProjectFiles): void {
  const { assets } = project;
  if (!assets || !expression.code.includes('asset')) return;
  visit(expression.syntax, (node: Node & { callee?: Node & { name?: unknown }; arguments?: Node[] }) => {
    const [argument] = node.type === 'CallExpression' && node.callee?.name === 'asset' ? (node.arguments ?? []) : [];
    const path = (argument as { value?: unknown } | undefined)?.value;
    const named = typeof path === 'string' ? assetPath(path) : undefined;
    if (named && !assets.has(named.path))
      project.report(
        argument!,
        templateDiagnostic('missing-asset', { path: named.path, nearest: nearest(named.path, assets.keys()) }),
      );
  });
}

/** The URL of the file that a relative URL names; the same text where it names none. */
function assetURL(href: string, needed: Span | undefined, project: ProjectFiles): string {
  const { assets } = project;
  const named = assetPath(href);
  if (!assets || !named) return href;
  const found = assets.get(named.path);
  if (found !== undefined) return found + named.rest;
  if (needed)
    project.report(
      needed,
      templateDiagnostic('missing-asset', { path: named.path, nearest: nearest(named.path, assets.keys()) }),
    );
  return href;
}

function changeTexts(attribute: Attribute, change: (text: string) => string): Attribute {
  let isChanged = false;
  const value = attribute.value!.map((part) => {
    if (part.kind !== 'text') return part;
    const before = decodeHTMLAttribute(part.text);
    const after = change(before);
    if (after === before) return part;
    isChanged = true;
    return { ...part, text: escapeText(after) };
  });
  return isChanged ? { ...attribute, value } : attribute;
}

/** Whether a page is broken without the file: a style sheet, a script, an image. */
function needsFile(element: Element, name: string): boolean {
  switch (element.name) {
    case 'link': {
      const rel = fixedValue(attributeOf(element, 'rel')) ?? '';
      return /(^|\s)(stylesheet|icon|apple-touch-icon|preload|modulepreload)(\s|$)/i.test(rel);
    }
    case 'script':
      return name === 'src';
    case 'img':
    case 'source':
    case 'input':
      return name === 'src' || name === 'srcset';
    case 'video':
      return name === 'poster';
    case 'image':
      return name === 'href' || name === 'xlink:href';
    default:
      return false;
  }
}

/** Text of a style sheet with the URLs of its files. */
export function withFilesInStyle(child: TemplateNode, project: ProjectFiles): TemplateNode {
  return child.kind === 'text' ? { ...child, text: assetsOfStyle(child.text, child, project) } : child;
}
