/** How the content of elements is read, which tree construction tells the tokenizer (HTML §13.2.6). */

/** How text is read (§13.2.5.1 to .5), and which end tag ends that. */
export type TokenizerMode =
  /** CDATA sections are read only inside SVG and MathML. */
  { kind: 'data'; isForeign: boolean } | { kind: 'plaintext' } | RawMode;

/** RCDATA, RAWTEXT or script data. */
export interface RawMode {
  kind: 'raw';
  /** The element whose end tag ends it. */
  element: string;
  /** Whether substitutions are read: in RCDATA, and in scripts that are JSON. */
  holdsValues: boolean;
  /** Where it ends, once that was looked for. */
  end: number | undefined;
}

export const dataMode: TokenizerMode = { kind: 'data', isForeign: false };

/**
 * How the content of an HTML element is read.
 * @param isJSON whether it is a script whose type is one of JSON, in which substitutions are read
 */
export function modeInside(name: string, isJSON: boolean): TokenizerMode {
  const model = Object.hasOwn(contentModels, name) ? contentModels[name]! : 'data';
  switch (model) {
    case 'data':
      return dataMode;
    case 'plaintext':
      return { kind: 'plaintext' };
    case 'rcdata':
    case 'rawtext':
    case 'script':
      return { kind: 'raw', element: name, holdsValues: model === 'rcdata' || isJSON, end: undefined };
  }
}

type ContentModel = 'data' | 'rcdata' | 'rawtext' | 'script' | 'plaintext';

const contentModels: Record<string, ContentModel> = {
  title: 'rcdata',
  textarea: 'rcdata',
  style: 'rawtext',
  xmp: 'rawtext',
  iframe: 'rawtext',
  noembed: 'rawtext',
  noframes: 'rawtext',
  script: 'script',
  plaintext: 'plaintext',
};
