/** Tells requests of the Fetch standard from what servers hand to their handlers instead. */
import { LoomError } from '../diagnostics/index.ts';
import { requestDiagnostic } from './diagnostics.ts';

/** @throws {LoomError} for anything that is no request of the Fetch standard, with what to use instead */
export function assertRequest(given: unknown): void {
  const { url, method, headers, rawHeaders, raw, req } = propertiesOf(given);
  if (typeof url === 'string' && typeof method === 'string' && typeof propertiesOf(headers).get === 'function') return;
  const kind = Array.isArray(rawHeaders) ? 'node' : (raw ?? propertiesOf(req).raw) !== undefined ? 'wrapped' : 'other';
  throw new LoomError(requestDiagnostic('invalid-request', { kind }));
}

function propertiesOf(value: unknown): Record<string, unknown> {
  return typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {};
}
