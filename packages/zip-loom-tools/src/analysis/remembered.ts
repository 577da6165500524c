/**
 * A pure function that remembers what it has answered for each object, as long as somebody holds that. What else it is given goes with
 * the object: it is the same each time.
 */
export function remembered<Thing extends object, More extends unknown[], Answer>(
  answer: (thing: Thing, ...more: More) => Answer,
): (thing: Thing, ...more: More) => Answer {
  const known = new WeakMap<Thing, { answer: Answer }>();
  return (thing, ...more) => {
    let entry = known.get(thing);
    if (!entry) {
      entry = { answer: answer(thing, ...more) };
      known.set(thing, entry);
    }
    return entry.answer;
  };
}
