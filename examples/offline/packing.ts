/** What is taken along, kept in this browser. */
export interface Item {
  id: string;
  text: string;
  isPacked: boolean;
}

const key = 'packing-list';

const usual: readonly string[] = [
  'Oilskins',
  'Tide tables',
  'A torch and batteries',
  'Bread for two days',
  'Fenders, four',
];

export class PackingList {
  items: Item[] = readItems() ?? usual.map((text, at) => ({ id: String(at), text, isPacked: false }));

  add(text: string): void {
    this.keep([...this.items, { id: crypto.randomUUID(), text, isPacked: false }]);
  }

  remove(id: string): void {
    this.keep(this.items.filter((item) => item.id !== id));
  }

  pack(id: string, isPacked: boolean): void {
    this.keep(this.items.map((item) => (item.id === id ? { ...item, isPacked } : item)));
  }

  private keep(items: Item[]): void {
    this.items = items;
    localStorage.setItem(key, JSON.stringify(items));
  }
}

/** What was kept; `undefined` where nothing was, or somebody has spoilt it. */
function readItems(): Item[] | undefined {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key) ?? 'null');
    return Array.isArray(kept) && kept.every(isItem) ? kept : undefined;
  } catch {
    return undefined;
  }
}

function isItem(value: unknown): value is Item {
  if (typeof value !== 'object' || value === null) return false;
  const { id, text, isPacked } = value as Partial<Item>;
  return typeof id === 'string' && typeof text === 'string' && typeof isPacked === 'boolean';
}
