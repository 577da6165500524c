/** What can be reached from somewhere, over any number of steps, the start included; in the order in which it is reached. */
export function closure<Node>(start: Iterable<Node>, next: (node: Node) => Iterable<Node>): Set<Node> {
  const reached = new Set(start);
  // A set is read on while it grows.
  for (const node of reached) for (const one of next(node)) reached.add(one);
  return reached;
}
