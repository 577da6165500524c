/** Parts of layouts that are templates of their own: headers, navigation, side bars, footers. */
import { freeName } from '../free-name.ts';
import { tellingWords } from '../repeats/values.ts';
import { elementOf } from './align.ts';
import type { Names } from './names.ts';
import { type ElementPart, type FixedPart, holesOf, type Part, textOn } from './parts.ts';

/** Shorter ones are better seen where they are. */
const shortest = 150;

const landmarks = /^(?:header|nav|aside|footer)$/;
const words = /^(?:(?:site|main|page|top|app|left|right)-)?(?:header|topbar|navbar|sidebar|sidenav|footer)$/;

/** Partials of a site, by their texts: two layouts with the same footer have one. */
export class Partials {
  readonly files: Record<string, string> = {};
  private readonly byText = new Map<string, string>();
  private readonly names: Names;

  constructor(names: Names) {
    this.names = names;
  }

  /**
   * The call of a partial with this text.
   * @param text what it prints, which may read `active`
   */
  call(part: FixedPart | ElementPart, text: string): string {
    const name = this.byText.get(text) ?? this.add(part, text);
    return `<${name}${readsActive(text) ? ' active=${active}' : ''}></${name}>`;
  }

  private add(part: FixedPart | ElementPart, text: string): string {
    const name = this.names.template(freeName(nameFor(part), (guess) => this.names.isGuessed(guess)));
    this.byText.set(text, name);
    this.files[`partials/${name}.html`] = `${readsActive(text) ? '<meta (takes active: string)>\n' : ''}${text}\n`;
    return name;
  }
}

function readsActive(text: string): boolean {
  return /(?<!\\)(?:\\\\)*\$\{[^{}]*\bactive\b/.test(text);
}

/** Whether it is one: a landmark that is the same on all pages, but for what is active. */
export function isPartial(part: Part): part is FixedPart | ElementPart {
  const element = elementOf(part);
  if (element?.namespace !== 'html' || textOn(part, 0).length < shortest) return false;
  if (!landmarks.test(element.name) && !tellingWords(element).some((word) => words.test(word))) return false;
  return part.kind === 'fixed' || (holesOf([part]).length === 0 && !hasManyValues(part as ElementPart));
}

/** Whether an attribute in it is a parameter of the layout. */
function hasManyValues(part: ElementPart): boolean {
  const isMany = part.tag.some((piece) => typeof piece !== 'string' && new Set(piece.texts).size > 2);
  return isMany || part.children.some((child) => child.kind === 'element' && hasManyValues(child));
}

/** `site-header`, or what its class says in two words. */
function nameFor(part: FixedPart | ElementPart): string {
  const element = elementOf(part)!;
  const known = tellingWords(element);
  const own = known.find((word) => words.test(word) && word.includes('-')) ?? known.find((word) => words.test(word));
  const word = own ?? element.name;
  return word.includes('-') ? word : `site-${word}`;
}
