// Work that waits for its turn.

/** First in, first out. */
export class Queue<T> {
  #items: T[] = [];
  #at = 0;

  get size(): number {
    return this.#items.length - this.#at;
  }

  add(item: T): void {
    this.#items.push(item);
  }

  take(): T {
    const item = this.#items[this.#at]!;
    this.#at += 1;
    if (this.#at === this.#items.length) {
      this.#items = [];
      this.#at = 0;
    }
    return item;
  }
}
