// Choosing a berth: the tide table is fetched while the form is filled in.

import { createGate } from 'upper-gate';
import { bindForm, errorSummary, movingOptions } from 'upper-gate/dom';
import { berthForm, tides, type TideTable } from './berth.ts';
import './inspecting.ts';
import './style.css';

const find = (id: string): HTMLElement => document.getElementById(id)!;
const outcome = find('outcome');
const table = find('table') as HTMLSelectElement;

const gate = createGate(berthForm, {
  submit: (data, { signal }) =>
    fetch(`/api/berths?table=${table.value}`, {
      method: 'POST',
      signal,
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(data),
    }),
});
bindForm(find('berthing') as HTMLFormElement, gate, { options: movingOptions, summary: errorSummary });
gate.on('submit', () => (outcome.textContent = ''));
gate.on('accepted', ({ data }) => {
  outcome.textContent = `${data.berth} in ${data.harbour} is yours from ${data.arrival}.`;
  outcome.focus();
});

/** Fetches a tide table. Until the first has come, the form waits: it cannot be sent. */
async function fetchTides(): Promise<void> {
  const name = table.value;
  find('tides').textContent = 'The tide table is being fetched …';
  const response = await fetch(`/api/tides/${name}`);
  const entries = (await response.json()) as TideTable;
  if (name !== table.value) return;
  gate.setContext(tides, entries);
  find('tides').textContent = 'The draught is checked against this table.';
}
table.addEventListener('change', () => void fetchTides());
void fetchTides();
