/** The client with uploads as one file that starts itself: `<script type="module" async src="…">`. */
import { start } from '../client/index.ts';
import { uploads } from './index.ts';

start({ send: uploads() });
