// An invisible live region, which screen readers read out politely. A text stays in it as long as it holds and is the latest.

interface Announcement {
  readonly element: HTMLElement;
  /** When it was announced. */
  readonly at: number;
  readonly holds: () => boolean;
}

/** Until when a screen reader has taken a text, in milliseconds. */
const READ_AFTER = 1000;

export class Announcer {
  readonly #region = makeLiveRegion();
  #announced: readonly Announcement[] = [];

  constructor(form: HTMLFormElement) {
    form.append(this.#region);
  }

  /** Announces a text after the current one. @param holds whether it is still true; called at each `update` */
  say(text: string, holds: () => boolean): void {
    const element = document.createElement('p');
    element.textContent = text;
    this.#region.append(element);
    const at = performance.now();
    // A text that was announced before is not repeated. A recent one may not have been read out yet.
    this.#keep((said) => at - said.at < READ_AFTER);
    this.#announced = [...this.#announced, { element, at, holds }];
  }

  /** Takes away what no longer holds. */
  update(): void {
    if (this.#announced.length > 0) this.#keep(({ holds }) => holds());
  }

  undo(): void {
    this.#region.remove();
  }

  #keep(stays: (said: Announcement) => boolean): void {
    this.#announced = this.#announced.filter((said) => {
      const keeps = stays(said);
      if (!keeps) said.element.remove();
      return keeps;
    });
  }
}

function makeLiveRegion(): HTMLElement {
  const region = document.createElement('div');
  region.setAttribute('role', 'status');
  // What comes is read, and not again what is there.
  region.setAttribute('aria-atomic', 'false');
  region.style.cssText = 'position:absolute;width:1px;height:1px;margin:-1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap';
  return region;
}
