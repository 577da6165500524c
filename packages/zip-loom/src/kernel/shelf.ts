/** A few of many things that are costly to make. */

/**
 * Keeps so many of them. When there is no room, one that is there goes, whichever: what goes by age would be missing every time where
 * one more than there is room for are asked for in turns.
 */
export class Shelf<Kept> {
  private readonly most: number;
  private readonly kept = new Map<string, Kept>();
  private readonly keys: string[] = [];

  constructor(most: number) {
    this.most = most;
  }

  /** What is kept under a key, made where it is not there. */
  get(key: string, make: () => Kept): Kept {
    const known = this.kept.get(key);
    if (known !== undefined) return known;
    const made = make();
    const place = this.keys.length < this.most ? this.keys.length : Math.floor(Math.random() * this.most);
    const leaving = this.keys[place];
    if (leaving !== undefined) this.kept.delete(leaving);
    this.keys[place] = key;
    this.kept.set(key, made);
    return made;
  }

  clear(): void {
    this.kept.clear();
    this.keys.length = 0;
  }
}
