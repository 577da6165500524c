/** Without anything of ours in it, markup is cut into the tokens of the standard: compared with an independent tokenizer. */
import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from '@jest/globals';
import { decodeHTML, decodeHTMLAttribute } from 'entities';
import fc from 'fast-check';
import { type Token as ParsedToken, Tokenizer as StandardTokenizer, TokenizerMode } from 'parse5';
import { Tokenizer } from '../../packages/zip-loom/src/language/tokenizer.ts';
import { modeInside } from '../../packages/zip-loom/src/language/tokenizer-mode.ts';
import { runs } from '../support/runs.ts';

/** Tokens as text: tags with their attributes, text decoded. */
function ours(source: string): string[] {
  const tokens: string[] = [];
  const tokenizer = new Tokenizer(source, (_span, complaint) => {
    throw new Error(complaint.code);
  });
  let raw = false;
  for (let token = tokenizer.next(); token; token = tokenizer.next()) {
    switch (token.kind) {
      case 'start-tag': {
        const attributes = new Map<string, string>();
        for (const item of token.items) {
          if (item.kind !== 'attribute' || attributes.has(item.name)) continue;
          attributes.set(
            item.name,
            decodeHTMLAttribute((item.value ?? []).map((part) => (part.kind === 'text' ? part.text : '')).join('')),
          );
        }
        tokens.push(tag(token.name, [...attributes], token.selfClosing));
        tokenizer.mode = modeInside(token.name, false);
        raw = tokenizer.mode.kind === 'plaintext' || (tokenizer.mode.kind === 'raw' && !tokenizer.mode.holdsValues);
        break;
      }
      case 'end-tag':
        raw = false;
        tokens.push(`</${token.name}>`);
        break;
      case 'text':
        addText(tokens, raw ? token.text : decodeHTML(token.text));
        break;
      case 'comment':
        tokens.push('comment');
        break;
      case 'verbatim': {
        const text = source.slice(token.start, token.end);
        // An empty end tag and a tag that is cut off give no token in the standard (§13.2.5.6, §13.2.5 eof-in-tag).
        if (/^<[a-z]|^<\/[a-z]|^<\/>$/i.test(text)) break;
        tokens.push(/^<!doctype/i.test(text) ? 'doctype' : 'comment');
        break;
      }
    }
  }
  return tokens;
}

function standard(source: string): string[] {
  const tokens: string[] = [];
  /** The state of the standard’s tokenizer after a start tag. */
  function stateInside(name: string) {
    const mode = modeInside(name, false);
    if (mode.kind === 'data') return undefined;
    if (mode.kind === 'plaintext') return TokenizerMode.PLAINTEXT;
    if (mode.element === 'script') return TokenizerMode.SCRIPT_DATA;
    return mode.holdsValues ? TokenizerMode.RCDATA : TokenizerMode.RAWTEXT;
  }
  const text = (token: ParsedToken.CharacterToken) => addText(tokens, token.chars);
  const tokenizer = new StandardTokenizer(
    { sourceCodeLocationInfo: false },
    {
      onStartTag(token) {
        tokens.push(
          tag(
            token.tagName,
            token.attrs.map(({ name, value }) => [name, value]),
            token.selfClosing,
          ),
        );
        const state = stateInside(token.tagName);
        if (state === undefined) return;
        tokenizer.lastStartTagName = token.tagName;
        tokenizer.state = state;
      },
      onEndTag: (token) => tokens.push(`</${token.tagName}>`),
      onComment: () => tokens.push('comment'),
      onDoctype: () => tokens.push('doctype'),
      onCharacter: text,
      onNullCharacter: text,
      onWhitespaceCharacter: text,
      onEof: () => {},
    },
  );
  tokenizer.write(source, true);
  return tokens;
}

function tag(name: string, attributes: Array<[string, string]>, selfClosing: boolean): string {
  return `<${name}${attributes.map(([key, value]) => ` ${key}=${JSON.stringify(value)}`).join('')}${selfClosing ? ' /' : ''}>`;
}

function addText(tokens: string[], text: string): void {
  if (text === '') return;
  const last = tokens.at(-1);
  if (last?.startsWith('text ')) tokens[tokens.length - 1] = last + text;
  else tokens.push(`text ${text}`);
}

describe('the tokenizer', () => {
  const pieces = [
    ...'<p>|</p>|<br/>|<a href=x>|<a href="a b" title=\'c\' id>|< p>|</ p>|<1|<!-- a -->|<!-->|<!--->|<!---->|<!--a--!>|<!-- a -- b --->|<!DOCTYPE html>|<!doctype>|<!x>|<?php ?>|</>|<!--'.split(
      '|',
    ),
    ...'<title>|</title>|<textarea>|</textarea>|<style>|</style>|<script>|</script>|</scrip|<script|<!--<script>|-->|</script >|</SCRIPT/x>|<xmp>|</xmp>|<iframe>|</iframe>'.split(
      '|',
    ),
    ...'&amp;|&lt|&#x41;|&notit;|&copy=|&bogus;|&|a|=|"|\'|/|>|<|\n|\t|-|!|]]>|<![CDATA[x]]>|<A B=C d=E/>|<input value=a/b>|<p a=1 a=2>|<p =x>|<p a= b>|<p a=>|<p/a>|<p a"b>|é|<É>|<pé>'.split(
      '|',
    ),
    ' ',
  ];

  test('agrees with the standard’s on generated markup', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...pieces), { maxLength: 25 }), (parts) => {
        const source = parts.join('');
        // Markup of ours begins only with these two.
        fc.pre(!source.includes('${') && !source.includes('('));
        expect(ours(source)).toEqual(standard(source));
      }),
      { numRuns: runs(6000, 200_000), seed: 7 },
    );
  });

  const folder = new URL('../pages/', import.meta.url);
  test.each(readdirSync(folder))('agrees on %s', (name) => {
    const source = readFileSync(new URL(name, folder), 'utf8')
      .replace(/\$\{[^}]*\}/g, '')
      .replaceAll('(', '[');
    // Neither side knows of SVG here, where CDATA sections would differ.
    expect(ours(source.replace(/<!\[CDATA\[[\s\S]*?\]\]>/g, ''))).toEqual(
      standard(source.replace(/<!\[CDATA\[[\s\S]*?\]\]>/g, '')),
    );
  });
});
