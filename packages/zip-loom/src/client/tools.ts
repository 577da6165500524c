/**
 * What modules that are loaded later use of the client. It is given to them: were they to import it, a project that serves the client as
 * one file would have two of them on its pages.
 */
import { linkAction, regionFor, submitAction } from './actions.ts';
import { addToHead, mayApply, merging } from './answers.ts';
import { baseOf } from './base.ts';
import { send } from './events.ts';
import { hideFailure, showFailure } from './failures.ts';
import { focusAfter, hasStayed } from './focus.ts';
import { changeStamp } from './history.ts';
import { asWithScripts, markupFor, parseDocument, trusted } from './markup.ts';
import { create, mergeChildren, mergeElement, mergeNode, move } from './merge.ts';
import { adopt, isMarked, liveRegions, regionsOf, takeList } from './page.ts';
import { ask } from './requests.ts';
import { textOf } from './texts.ts';
import { now, typedSince } from './typing.ts';

export type { ApplyOptions } from './answers.ts';

export const tools = {
  addToHead,
  adopt,
  ask,
  asWithScripts,
  baseOf,
  changeStamp,
  create,
  focusAfter,
  hasStayed,
  hideFailure,
  isMarked,
  linkAction,
  liveRegions,
  markupFor,
  mayApply,
  mergeChildren,
  mergeElement,
  mergeNode,
  merging,
  move,
  now,
  parseDocument,
  regionFor,
  regionsOf,
  send,
  showFailure,
  submitAction,
  takeList,
  textOf,
  trusted,
  typedSince,
};

export type Tools = typeof tools;
