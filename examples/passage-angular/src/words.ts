import { computed, effect, Injectable, signal } from '@angular/core';
import { CATALOGUES, rememberedLanguage, say, speak, type Word } from 'lock-passage/words';

/** The texts of the page around the form, in the current language. */
@Injectable({ providedIn: 'root' })
export class Words {
  readonly language = signal(rememberedLanguage());
  readonly catalogue = computed(() => CATALOGUES[this.language()]);

  constructor() {
    effect(() => speak(this.language()));
  }

  say(word: string, values?: Readonly<Record<string, string>>): string {
    return say(this.language(), word as Word, values);
  }
}
