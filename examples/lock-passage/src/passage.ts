// The booking of a passage: declared once, for the page and for the server.

import {
  asyncCheck,
  boolean,
  check,
  choice,
  choices,
  date,
  email,
  group,
  integer,
  length,
  number,
  pattern,
  range,
  required,
  requiredWhen,
  sameAs,
  text,
  type DataOf,
} from 'upper-gate';

/** What the register of vessels says of a registration. */
export type RegisterEntry = { known: false } | { known: true; vessel: string; booked: string | null };

/** Asks the register: the page over HTTP, the server in its database. */
export type AskRegister = (registration: string, signal: AbortSignal) => Promise<RegisterEntry>;

/** The lockages of a day. */
export const SLOTS = { '07:00': 'Early', '10:00': 'Morning', '13:00': 'Midday', '16:00': 'Afternoon' } as const;

/** The chamber, in metres. */
export const CHAMBER = { length: 30, beam: 5.2 };

/** The form, given a way to ask the register. */
export function passageForm(askRegister: AskRegister) {
  return group({
    vessel: text({ label: 'Vessel name', hint: 'As painted on the bow' }, required(), length({ min: 2, max: 40 })),
    registration: text(
      { label: 'Registration', hint: 'Two letters, a dash, four digits: OT-1204', case: 'upper' },
      required(),
      pattern(/^[A-Z]{2}-\d{4}$/, 'Registration: two letters, a dash, four digits'),
      asyncCheck(
        async (registration, { signal }) => {
          const entry = await askRegister(registration, signal);
          if (!entry.known) return `${registration} is not on the register of vessels`;
          if (entry.booked !== null) return { code: 'taken', message: `${registration} already has a passage booked, on ${entry.booked}` };
          return { severity: 'notice', message: `On the register: ${entry.vessel}` };
        },
        { debounce: 350, timeout: 6000 },
      ),
    ),
    lengthM: number('Length (m)', required(), range({ min: 2, max: CHAMBER.length })),
    beam: number('Beam (m)', required(), range({ min: 0.5, max: CHAMBER.beam })),
    kind: choice('Kind of boat', ['barge', 'canoe', 'narrowboat', 'yacht'], required()),
    arrival: date('Arrival', required(), range({ min: '2027-03-01', max: '2027-10-31' })),
    slot: choice('Lockage', ['07:00', '10:00', '13:00', '16:00'], required()),
    crew: integer('Crew on board', required(), range({ min: 1, max: 12 })),
    kit: choices(
      { label: 'Safety kit on board', hint: 'Two at least' },
      ['lifejackets', 'horn', 'lights', 'extinguisher'],
      required(),
      length({ min: 2 }),
    ),
    email: text('E-mail', required(), email()),
    emailAgain: text('Repeat e-mail', required()),
    callBack: boolean('Call me back about this passage'),
    phone: text('Phone', pattern(/^\+?[\d ]{6,20}$/, 'Phone: digits and spaces, perhaps a plus in front')),
    remarks: text({ label: 'Remarks', hint: 'Anything the lock keeper should know' }, length({ max: 300 })),
  })
    .rules({
      emailAgain: sameAs('email'),
      phone: requiredWhen((boat) => boat.callBack, 'Phone is required if we are to call you back'),
      beam: check((beam, boat) => beam <= boat.lengthM, 'A boat is not wider than it is long'),
      crew: check((crew, boat) => boat.kind !== 'canoe' || crew <= 3, 'A canoe takes at most 3'),
    })
    .whole(
      check(
        (boat) => boat.lengthM * boat.beam <= 120,
        'Length times beam is over 120 m²: together with its fenders this boat does not fit the chamber',
      ),
    );
}

export type Passage = DataOf<ReturnType<typeof passageForm>>;
