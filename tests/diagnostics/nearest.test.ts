/** “Did you mean”: near enough to help, never a guess. */
import { describe, expect, test } from '@jest/globals';
import { errors } from '../support/templates.ts';

describe('the nearest name', () => {
  test.each<[written: string, offered: string | undefined]>([
    ['berht', 'berth'],
    ['brth', 'berth'],
    ['Berth', 'berth'],
    ['berths', 'berth'],
    ['boat', undefined],
    ['x', undefined],
    ['freeForm', 'freeFrom'],
    ['numbr', 'number'],
    ['contxt', 'context'],
    ['trustdHTML', 'trustedHTML'],
    ['completelyElse', undefined],
  ])('%s', async (written, offered) => {
    const [error] = await errors(`<meta (takes berth, freeFrom)>\${${written}}`);
    expect(error!.code).toBe('unknown-name');
    const found = /Did you mean “(.*)”\?/.exec(error!.hint ?? '')?.[1];
    expect(found).toBe(offered);
  });

  test.each([
    ['clauses', '<p (esle)>x</p>', /Did you mean “else”/],
    ['arguments', '<name-card nmae=x/>', /Did you mean “name”/],
    ['templates', '<name-crd name=x/>', /Did you mean “name-card”/],
  ])('of %s', async (_name, template, hint) => {
    const found = await errors(template, { 'partials/name-card.html': '<meta (takes name)>${name}' });
    expect(found.map((error) => error.hint).join('\n')).toMatch(hint);
  });
});
