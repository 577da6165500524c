/** What surrounds the code of the chapters that is for a browser. */
import { createBuiltLoom } from 'zip-loom/built';
import { built as builtTemplates } from 'zip-loom/templates';

document.body.innerHTML = '<div id="list"></div>';

export const built = builtTemplates;
export const helpers = {};
export const berth = { name: 'A1' };
export const items = ['Fenders'];
export const loom = await createBuiltLoom({ built });
export function begin(): void {}
export async function arrive(_sent: boolean): Promise<void> {}
