/**
 * What modules that are loaded later use of the client. It is given to them: were they to import it, a project that serves the client as
 * one file would have two of them on its pages.
 */
import { mayApply, merging } from './answers.ts';
import { baseOf } from './base.ts';
import { asWithScripts, markupFor, parseDocument } from './markup.ts';
import { create, mergeChildren, mergeElement, mergeNode, move } from './merge.ts';
import { adopt, isMarked, regionsOf } from './page.ts';

export type { ApplyOptions } from './answers.ts';

export const tools = {
  adopt,
  asWithScripts,
  baseOf,
  create,
  isMarked,
  markupFor,
  mayApply,
  mergeChildren,
  mergeElement,
  mergeNode,
  merging,
  move,
  parseDocument,
  regionsOf,
};

export type Tools = typeof tools;
