/** How many random cases a test tries: the first number in `npm test`, the second in `npm run fuzz`. */
export function runs(some: number, many: number): number {
  return process.env['CHECK'] === 'all' ? many : some;
}
