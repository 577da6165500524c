/** What answers requests wherever there is no cryptography of the platform’s that answers at once. */
import { portableCodes } from '../../security/index.ts';
import { answeringOn } from './answering.ts';

export const portableAnswering = answeringOn({ codes: portableCodes });
