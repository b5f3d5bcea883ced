// A berth in a harbour: which there are depends on the harbour, how long a boat may be on its kind, and how deep on the tides.

import {
  fieldRules,
  check,
  choice,
  choicesFrom,
  context,
  depending,
  group,
  list,
  number,
  range,
  required,
  text,
  time,
  type DataOf,
} from 'upper-gate';

/** How deep the water is in a harbour, from a time on. */
const tide = group({
  harbour: text('Harbour', required()),
  from: time('From', required()),
  depth: number('Depth (m)', required()),
});

export type TideTable = readonly DataOf<typeof tide>[];
/** The tide table of the day: a fact from outside, which is fetched later. */
export const tides = context<TideTable>('tides', { schema: list('Tides', tide) });

const BERTHS = {
  Reedham: ['North 1', 'North 2', 'South 1'],
  Saltby: ['Quay A', 'Quay B'],
  Thorle: ['Basin 1', 'Basin 2', 'Basin 3', 'Basin 4'],
} as const;
const LONGEST = { barge: 38, narrowboat: 21.5, canoe: 6 } as const;
/** Metres of water that stay under every keel. */
const UNDER_KEEL = 0.3;

/** The depth in a harbour at a time. */
function depthAt(harbour: string, at: string): number | undefined {
  return tides.get().findLast((entry) => entry.harbour === harbour && entry.from <= at)?.depth;
}

export const berthForm = group({
  harbour: choice('Harbour', ['Reedham', 'Saltby', 'Thorle'], required()),
  kind: choice('Kind of boat', ['barge', 'narrowboat', 'canoe'], required()),
  lengthM: number({ label: 'Length (m)', hint: 'At most {max} m for this kind of boat' }, required()),
  draught: number('Draught (m)', required(), range({ min: 0.1, max: 4 })),
  arrival: time('Arrival', required()),
  berth: text('Berth', required()),
  side: text('Side to the quay', required()),
}).with(
  fieldRules({
    lengthM: range(depending((boat) => ({ min: 2, max: LONGEST[boat.kind] }))),
    berth: choicesFrom((boat) => BERTHS[boat.harbour]),
    side: choicesFrom((boat) =>
      boat.kind === 'canoe'
        ? [{ value: 'ashore', label: 'Carried ashore' }]
        : [
            { value: 'port', label: 'Port' },
            { value: 'starboard', label: 'Starboard' },
          ],
    ),
    draught: check((draught, { harbour, arrival }) => {
      const depth = depthAt(harbour, arrival);
      const most = depth === undefined ? undefined : Math.max(0, Math.round((depth - UNDER_KEEL) * 10) / 10);
      return most === undefined || draught <= most || `${harbour} takes a draught of ${most} m at ${arrival}, by this tide table`;
    }),
  }),
);
