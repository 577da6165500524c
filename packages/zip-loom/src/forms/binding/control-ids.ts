/** Ids of controls, and what labels point to. */
import { escapeText, type FieldSite } from '../../kernel/index.ts';
import { deepestName, parsePath, shapeAt } from '../schema/paths.ts';
import type { Group } from '../schema/shape.ts';
import { type Kept, Target } from './plans.ts';

const plainName = /^[\w-]*\w$/;

export class ControlIds {
  private readonly start: string;
  private readonly kept: Kept;
  private readonly shape: Group;
  /** Whether they are the same for every form of the definition. */
  private readonly areFixed: boolean;

  /** @param start what all ids begin with */
  constructor(start: string, kept: Kept, shape: Group, areFixed: boolean) {
    this.start = start;
    this.kept = kept;
    this.shape = shape;
    this.areFixed = areFixed;
  }

  /** The id for a name, whatever it is. */
  for(name: string): string {
    if (name === '') return this.start;
    return `${this.start}-${plainName.test(name) ? name : name.replace(/[^\w-]+/g, '-').replace(/-$/, '')}`;
  }

  /** The id of a field’s control, or `undefined` where the form has no such field. */
  of(name: string): string | undefined {
    const known = this.areFixed ? this.kept.ids.get(name) : undefined;
    if (known !== undefined) return known;
    const path = parsePath(name, deepestName);
    const id = path && shapeAt(this.shape, path) ? this.for(name) : undefined;
    // Names come from templates; those of list items are as many as a page likes.
    if (id !== undefined && this.areFixed && !name.includes('[')) this.kept.ids.set(name, id);
    return id;
  }

  /** The same for fixed text, escaped; the text itself where the form has no such field. */
  targetOf(site: FieldSite): string {
    const { kept } = this;
    const last = site.kept;
    if (last instanceof Target && last.kept === kept && this.areFixed) return last.id;
    const id = escapeText(this.of(site.name) ?? site.name);
    if (this.areFixed) site.kept = new Target(kept, id);
    return id;
  }
}
