// An invisible live region, which screen readers read out politely. A text stays in it as long as it holds and is the latest.

interface Announcement {
  readonly element: HTMLElement;
  /** When it was announced. */
  readonly at: number;
  readonly holds: () => boolean;
}

/** Until when a screen reader has taken a text, in milliseconds. */
const READ_AFTER = 1000;

/** Announces texts. */
export interface Announcer {
  /** Announces a text after the current one. @param holds whether it is still true; called at each `update` */
  readonly say: (text: string, holds: () => boolean) => void;
  /** Takes away what no longer holds. */
  readonly update: () => void;
  readonly undo: () => void;
}

/** Adds a live region to a form. @param said called with each text */
export function startAnnouncer(form: HTMLFormElement, said: (text: string) => void): Announcer {
  const region = document.createElement('div');
  region.setAttribute('role', 'status');
  // What comes is read, and not again what is there.
  region.setAttribute('aria-atomic', 'false');
  region.style.cssText = 'position:absolute;width:1px;height:1px;margin:-1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap';
  form.append(region);
  let announced: readonly Announcement[] = [];
  const keep = (stays: (said: Announcement) => boolean): void => {
    announced = announced.filter((said) => {
      const keeps = stays(said);
      if (!keeps) said.element.remove();
      return keeps;
    });
  };
  return {
    say(text, holds) {
      said(text);
      const element = document.createElement('p');
      element.textContent = text;
      region.append(element);
      const at = performance.now();
      // A text that was announced before is not repeated. A recent one may not have been read out yet.
      keep((said) => at - said.at < READ_AFTER);
      announced = [...announced, { element, at, holds }];
    },
    update: () => keep(({ holds }) => holds()),
    undo: () => region.remove(),
  };
}
