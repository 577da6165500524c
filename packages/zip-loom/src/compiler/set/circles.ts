/**
 * Groups of nodes that can be reached from each other (strongly connected components, by Tarjan’s algorithm), each group after those that
 * it leads to. Linear, and without recursion, however long the ways are.
 */

/** A node that is being looked at. */
interface Visit<Node> {
  node: Node;
  next: Iterator<Node>;
}

export function circlesOf<Node>(nodes: Iterable<Node>, next: (node: Node) => Iterable<Node>): Node[][] {
  const found: Node[][] = [];
  /** When each node was met first. */
  const met = new Map<Node, number>();
  /** The earliest node that each can come back to. */
  const lowest = new Map<Node, number>();
  const waiting: Node[] = [];
  const isWaiting = new Set<Node>();
  const visits: Array<Visit<Node>> = [];
  const meet = (node: Node) => {
    lowest.set(node, met.size);
    met.set(node, met.size);
    waiting.push(node);
    isWaiting.add(node);
    visits.push({ node, next: next(node)[Symbol.iterator]() });
  };
  const lower = (node: Node, to: number) => lowest.set(node, Math.min(lowest.get(node)!, to));
  for (const start of nodes) {
    if (!met.has(start)) meet(start);
    for (let visit = visits.at(-1); visit; visit = visits.at(-1)) {
      const { done, value } = visit.next.next();
      if (!done) {
        if (!met.has(value)) meet(value);
        else if (isWaiting.has(value)) lower(visit.node, met.get(value)!);
        continue;
      }
      visits.pop();
      const caller = visits.at(-1);
      if (caller) lower(caller.node, lowest.get(visit.node)!);
      if (lowest.get(visit.node) !== met.get(visit.node)) continue;
      const group = waiting.splice(waiting.lastIndexOf(visit.node));
      for (const node of group) isWaiting.delete(node);
      found.push(group);
    }
  }
  return found;
}
