/** The client as one file that starts itself: `<script type="module" async src="…">`. */
import { start } from './index.ts';

start();
