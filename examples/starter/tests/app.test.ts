/** The pages, as a visitor without JavaScript has them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { submit, visit } from 'zip-loom/testing';
import { createApp } from '../app.ts';

const app = await createApp('development');

test('an entry is written into the log', async () => {
  const page = await submit(app, '/', { boat: 'Salt Plover', remark: 'Two nights.' });
  assert.deepEqual(page.messages, ['Salt Plover is in the log.']);
  assert.ok(page.texts('li').some((text) => text.startsWith('Salt Plover')));
});

test('what cannot be taken is shown again, with the reason', async () => {
  const page = await submit(app, '/', { boat: 'S', remark: 'Two nights.' });
  assert.equal(page.status, 422);
  assert.deepEqual(page.errors('boat'), ['A boat’s name has at least two letters.']);
  assert.equal(page.value('remark'), 'Two nights.');
});

test('every page has its own title', async () => {
  assert.equal((await visit(app, '/about')).title, 'About · The log');
});
