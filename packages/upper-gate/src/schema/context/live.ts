// The facts from outside of one form: what tokens are worth there, and which callbacks read them.

import { unanswered } from '../../messages/english.ts';
import { lackingIn } from '../lacking.ts';
import type { Kit, LiveFacts, LiveNode, Readable, Recorder, Token, Watch } from '../kit.ts';
import { WAITING } from '../noValue.ts';
import type { Order } from '../verdict.ts';

/** What a token is worth. */
interface Fact extends Readable {
  readonly name: string;
  isKnown: boolean;
  /** The value. */
  sight: unknown;
}

const FORM_ORDER: Order = { depth: 0, index: 0 };

export class LiveContext implements LiveFacts {
  readonly #kit: Kit;
  readonly #facts = new Map<Token, Fact>();
  /** The tokens that callbacks wait for, as they were found last. */
  #awaited = '';
  /** What these callbacks are about. */
  #lacking: ReadonlySet<LiveNode> = new Set();

  constructor(kit: Kit) {
    this.#kit = kit;
  }

  read(token: Token, by?: Recorder): unknown {
    const fact = this.#factOf(token);
    this.#kit.read(fact, by);
    if (!fact.isKnown) throw WAITING;
    return fact.sight;
  }

  set(token: Token, value: unknown): void {
    const fact = this.#factOf(token);
    if (fact.isKnown && Object.is(fact.sight, value)) return;
    this.#kit.tracer?.learnt(token.name, value);
    fact.isKnown = true;
    fact.sight = value;
    fact.readers?.forEach((watch: Watch) => watch.invalidate());
  }

  settle(root: LiveNode): boolean {
    const unknown = [...this.#facts].filter(([, { isKnown, readers }]) => !isKnown && readers!.size > 0);
    this.#noteLacking(new Set(unknown.flatMap(([, { readers }]) => [...readers!].map(({ node }) => node))));
    const awaited = unknown.map(([{ name }]) => name);
    if (awaited.join() === this.#awaited) return false;
    this.#awaited = awaited.join();
    root.setVerdicts(
      this,
      FORM_ORDER,
      awaited.map((name) => ({
        rule: undefined,
        verdict: { code: 'unanswered', text: unanswered, params: { reason: 'context', context: name } },
      })),
    );
    return true;
  }

  #noteLacking(now: ReadonlySet<LiveNode>): void {
    if (now.size + this.#lacking.size === 0) return;
    const lacking = lackingIn(this.#kit);
    for (const node of this.#lacking) if (!now.has(node)) lacking.add(node, -1);
    for (const node of now) if (!this.#lacking.has(node)) lacking.add(node, 1);
    this.#lacking = now;
  }

  #factOf(token: Token): Fact {
    let fact = this.#facts.get(token);
    if (!fact) this.#facts.set(token, (fact = { name: token.name, readers: undefined, isKnown: token.hasFallback, sight: token.fallback }));
    return fact;
  }
}
