/** What a platform has besides ECMAScript. */

import type { FilePlatform } from '../../forms/index.ts';
import type { PairAnswerer } from '../../http/index.ts';
import type { Codes } from '../../security/index.ts';

export interface Platform {
  /** Its cryptography. */
  codes: Codes;
  /** Missing where no files are taken. */
  files?: FilePlatform;
  /** Missing where servers hand out requests of the Fetch standard alone. */
  pair?: PairAnswerer;
}
