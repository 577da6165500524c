/** TypeScript as an editor asks it. */
import { dirname, join } from 'node:path';
import { isSince, type ProjectCompiler } from '../project-compiler.ts';
import { ProtocolService } from './protocol-service.ts';
import { ServerService } from './server-service.ts';
import type { TypeService } from './service.ts';

export {
  type CodePlace,
  type CodeRange,
  codePosition,
  offsetAt,
  type TypedDescription,
  type TypedName,
  type TypeService,
} from './service.ts';

/** @param anchor a file that stays open, so that its project stays loaded */
export function startTypeService(compiler: ProjectCompiler, anchor: { file: string; text: string }): TypeService {
  return isSince(compiler, '7.0')
    ? new ProtocolService(compiler.script, anchor)
    : new ServerService(join(dirname(compiler.script), '../lib/tsserver.js'), anchor);
}
