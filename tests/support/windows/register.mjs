/**
 * A program that is loaded with this sees paths as under Windows, with a drive and backslashes, while the files stay where they are. So it
 * shows where it takes a path of the system for a name with slashes.
 */
import { register } from 'node:module';

register('./hooks.mjs', import.meta.url);
