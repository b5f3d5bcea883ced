// What `data-gate-state` says, of a field and of a form: for styles, never colour alone.

import type { GateState } from '../gate/gate.ts';
import type { FieldState } from '../gate/fieldState.ts';
import { gravest, type Severity } from '../schema/severity.ts';

/** The value of `data-gate-state` for a field. */
export type FieldStatus = 'idle' | 'pending' | 'valid' | Severity;

/** Whether a raw value is that of an empty control. */
export const isEmptyRaw = (raw: unknown): boolean =>
  raw === '' || raw === false || raw === null || (Array.isArray(raw) && raw.length === 0);

/**
 * Returns the state of a field as one word, for styles.
 *
 * @param state the state of the field
 * @returns `idle`, `pending`, `error`, `warning`, `notice` or `valid`
 */
export function fieldStatus({ shown, pending, revealed, valid, validated, raw }: FieldState): FieldStatus {
  if (pending) return 'pending';
  return gravest(shown) ?? (revealed && valid && validated && !isEmptyRaw(raw) ? 'valid' : 'idle');
}

/** Whether a submission is under way. */
export const isBusy = ({ status }: GateState): boolean => status === 'checking' || status === 'sending';

/**
 * Returns the state of a form as one word, for styles.
 *
 * @param state the state of the form
 * @returns `idle`, `pending`, `error` or `valid`
 */
export function formStatus(state: GateState): 'idle' | 'pending' | 'error' | 'valid' {
  const { status, pending, errorCount } = state;
  return isBusy(state) || pending
    ? 'pending'
    : status === 'failed' || (status === 'refused' && errorCount > 0)
      ? 'error'
      : status === 'accepted'
        ? 'valid'
        : 'idle';
}
