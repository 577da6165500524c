/** A pure function that remembers what it has answered for each object, as long as somebody holds that. */
export function remembered<Thing extends object, Answer>(answer: (thing: Thing) => Answer): (thing: Thing) => Answer {
  const known = new WeakMap<Thing, { answer: Answer }>();
  return (thing) => {
    let entry = known.get(thing);
    if (!entry) {
      entry = { answer: answer(thing) };
      known.set(thing, entry);
    }
    return entry.answer;
  };
}
