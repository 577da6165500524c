/**
 * Light objects stand for objects of the platform that are costly to make: they do themselves what most handlers ask of them, and
 * become the real ones when anything else is asked. On Node 24 and later, code of the platform itself cannot look into them, as
 * in `new Request(request)`: for that there is the option `standardObjects`.
 */

/**
 * Gives a class of light objects all that a class of the platform has.
 * @param example a real object: some versions of Node keep what is in it under symbols, by which their own code finds it
 * @param realOf gives the real object that a light one stands for
 */
export function standFor<Light extends object>(
  light: { prototype: Light },
  standard: { prototype: object },
  example: object,
  realOf: (light: Light) => object,
): void {
  const names: Array<string | symbol> = [
    ...Object.getOwnPropertyNames(standard.prototype),
    ...Object.getOwnPropertySymbols(example),
  ];
  for (const name of names) {
    if (Object.hasOwn(light.prototype, name)) continue;
    Object.defineProperty(light.prototype, name, {
      get(this: Light) {
        const real = realOf(this);
        const value: unknown = Reflect.get(real, name);
        return typeof value === 'function' ? value.bind(real) : value;
      },
      enumerable: typeof name === 'string',
      configurable: true,
    });
  }
  Object.setPrototypeOf(light.prototype, standard.prototype);
}
