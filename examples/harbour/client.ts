/** What runs in the browser: the client alone. */
import { start } from 'zip-loom/client';

start();
