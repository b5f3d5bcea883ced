// The booking office's database: PostgreSQL, embedded. It decides who gets a slot.

import { randomInt } from 'node:crypto';
import { PGlite } from '@electric-sql/pglite';
import type { Passage, RegisterEntry } from '../src/passage.ts';

const SCHEMA = `
  create table if not exists vessels (
    registration text primary key,
    name text not null
  );
  create table if not exists bookings (
    reference text primary key,
    registration text not null references vessels constraint one_booking_a_vessel unique,
    arrival date not null,
    slot text not null,
    details jsonb not null,
    constraint one_boat_a_slot unique (arrival, slot)
  );
  insert into vessels values
    ('OT-1204', 'Otter'), ('HE-2210', 'Heron'), ('KF-3307', 'Kingfisher'), ('MA-4001', 'Mallard'), ('TE-5120', 'Teal'), ('VO-6033', 'Water Vole')
    on conflict do nothing;
  insert into bookings values ('FF-10000', 'MA-4001', '2027-05-01', '10:00', '{"vessel": "Mallard"}') on conflict do nothing;
`;

/** Why a booking was not made. */
export type Conflict = 'vessel' | 'slot';

export interface Database {
  register(registration: string): Promise<RegisterEntry>;
  /** Books, or says which of the two unique things was taken already. */
  book(passage: Passage): Promise<{ reference: string } | { conflict: Conflict }>;
  close(): Promise<void>;
}

const CONFLICTS: Readonly<Record<string, Conflict>> = { one_booking_a_vessel: 'vessel', one_boat_a_slot: 'slot' };

/** Opens the database in a folder, or in memory (`memory://`), and fills it where it is new. */
export async function openDatabase(where: string): Promise<Database> {
  const db = await PGlite.create(where);
  await db.exec(SCHEMA);
  return {
    async register(registration) {
      const { rows } = await db.query<{ name: string; booked: string | null }>(
        'select name, arrival::text as booked from vessels left join bookings using (registration) where registration = $1',
        [registration],
      );
      const [row] = rows;
      return row ? { known: true, vessel: row.name, booked: row.booked } : { known: false };
    },
    async book(passage) {
      const reference = `FF-${randomInt(10_001, 99_999)}`;
      try {
        await db.query('insert into bookings values ($1, $2, $3, $4, $5)', [
          reference,
          passage.registration,
          passage.arrival,
          passage.slot,
          // Which certificate was shown, not the certificate.
          JSON.stringify({ ...passage, insurance: passage.insurance.name }),
        ]);
        return { reference };
      } catch (error) {
        const conflict = CONFLICTS[(error as { constraint?: string }).constraint ?? ''];
        if (conflict) return { conflict };
        throw error;
      }
    },
    close: () => db.close(),
  };
}
