/** A value that is worked out once somebody asks for it; what is made of itself is not known. */
export class Later<T> {
  #make: (() => T) | undefined;
  #value: T;

  constructor(make: () => T, unknown: T) {
    this.#make = make;
    this.#value = unknown;
  }

  get value(): T {
    const make = this.#make;
    if (make) {
      this.#make = undefined;
      this.#value = make();
    }
    return this.#value;
  }
}
