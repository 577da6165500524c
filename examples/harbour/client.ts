/** What runs in the browser: the client, and how far files have come. */
import { start } from 'zip-loom/client';
import { uploads } from 'zip-loom/client/uploads';

start({ send: uploads() });
