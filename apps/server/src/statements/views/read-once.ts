const MOST_TEXTS = 400;

/** Reads stored texts. The same text gives the same object, so that what is laid out of it can be recognized. */
export class ReadOnce<Value> {
  readonly #read: (text: string) => Value;
  readonly #held = new Map<string, Value>();

  constructor(read: (text: string) => Value) {
    this.#read = read;
  }

  of(text: string): Value {
    const value = this.#held.get(text) ?? this.#read(text);
    // what was asked for last goes last
    this.#held.delete(text);
    this.#held.set(text, value);
    const [oldest] = this.#held.keys();
    if (this.#held.size > MOST_TEXTS && oldest !== undefined) this.#held.delete(oldest);
    return value;
  }
}
