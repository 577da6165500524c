/** The client where there is no page, as on a server that loads the same modules. */
import { expect, test } from '@jest/globals';
import * as client from 'zip-loom/client';

test('it does nothing, and says so to who needs one', async () => {
  client.start();
  await expect(client.reload('berths')).rejects.toThrow('There is no page here.');
  await expect(client.apply('<p>x</p>')).rejects.toThrow('There is no page here.');
});
