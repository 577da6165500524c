/**
 * Hosts that no stranger can point at this machine (DNS rebinding): a page of another site that asks for its own name, which leads here
 * by now, has the origin of that name, and may read all that it is answered.
 */

/** Names that no public name server answers (RFC 6761 §6, RFC 6762 §3, RFC 8375; “internal” is reserved by ICANN). */
const reserved = /(?:^|\.)(?:localhost|local|internal|test|example|invalid|home\.arpa)$/;

/** True for an address, a name of one part and a reserved name. @param hostname as `URL` has it, in lower case */
export function isLocalHost(hostname: string): boolean {
  const name = hostname.endsWith('.') ? hostname.slice(0, -1) : hostname;
  const isAddress = name.startsWith('[') || /^\d+\.\d+\.\d+\.\d+$/.test(name);
  return isAddress || !name.includes('.') || reserved.test(name);
}
