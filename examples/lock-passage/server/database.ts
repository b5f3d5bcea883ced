// The booking office's database: PostgreSQL, embedded or as a server. It decides who gets a slot.

import { randomInt } from 'node:crypto';
import { PGlite } from '@electric-sql/pglite';
import pg from 'pg';
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
    version integer not null default 1,
    constraint one_boat_a_slot unique (arrival, slot)
  );
  alter table bookings add column if not exists version integer not null default 1;
  insert into vessels values
    ('OT-1204', 'Otter'), ('HE-2210', 'Heron'), ('KF-3307', 'Kingfisher'), ('MA-4001', 'Mallard'), ('TE-5120', 'Teal'), ('VO-6033', 'Water Vole')
    on conflict do nothing;
  insert into bookings (reference, registration, arrival, slot, details) values ('FF-10000', 'MA-4001', '2027-05-01', '10:00', '{
    "vessel": "Mallard", "lengthM": 14.5, "beam": 2.1, "window": { "from": "09:15", "to": "09:45" },
    "crew": [{ "name": "Bram Weir", "age": 52 }], "kit": ["lifejackets", "horn"], "callBack": false, "remarks": "A dog on board"
  }') on conflict do nothing;
`;
/** Held while the schema is made: several servers may start at once. */
const SCHEMA_LOCK = 8417;

/** Why a booking was not made. */
export type Conflict = 'vessel' | 'slot';

/** A booking as it is stored. */
export interface Stored {
  readonly reference: string;
  readonly arrival: string;
  readonly slot: string;
  readonly details: Readonly<Record<string, unknown>>;
  readonly version: number;
}

export interface Database {
  register(registration: string): Promise<RegisterEntry>;
  /** A booking, and the version of it; nothing if there is none. */
  booking(reference: string): Promise<Stored | undefined>;
  /** Writes what has become of a booking. @returns the new version; nothing if somebody else was quicker */
  change(reference: string, version: number, details: unknown): Promise<number | undefined>;
  /** Books, or returns which of the two unique things was taken already. */
  book(passage: Passage): Promise<{ reference: string } | { conflict: Conflict }>;
  close(): Promise<void>;
}

/** The database did not answer. */
export class Unavailable extends Error {}

/** What both kinds of database can do. */
interface Connection {
  query<R>(sql: string, values: unknown[]): Promise<{ rows: R[] }>;
  close(): Promise<void>;
}

const CONFLICTS: Readonly<Record<string, Conflict>> = { one_booking_a_vessel: 'vessel', one_boat_a_slot: 'slot' };

async function openEmbedded(where: string): Promise<Connection> {
  const db = await PGlite.create(where);
  await db.exec(SCHEMA);
  return { query: <R>(sql: string, values: unknown[]) => db.query<R>(sql, values), close: () => db.close() };
}

async function connectTo(url: string): Promise<Connection> {
  const pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 3000, query_timeout: 5000 });
  // A connection at rest that breaks is replaced by the next query.
  pool.on('error', () => undefined);
  const client = await pool.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [SCHEMA_LOCK]);
    await client.query(SCHEMA);
  } finally {
    await client.query('select pg_advisory_unlock($1)', [SCHEMA_LOCK]);
    client.release();
  }
  return {
    query: async <R>(sql: string, values: unknown[]) => ({ rows: (await pool.query(sql, values)).rows as R[] }),
    close: () => pool.end(),
  };
}

/**
 * Opens the database and fills it where it is new.
 *
 * @param where a folder or `memory://` for the embedded one; `postgres://...` for a server
 */
export async function openDatabase(where: string): Promise<Database> {
  const db = await (/^postgres(ql)?:/.test(where) ? connectTo(where) : openEmbedded(where));
  const insert = async (passage: Passage): Promise<{ reference: string } | { conflict: Conflict } | undefined> => {
    const reference = `FF-${randomInt(10_001, 99_999)}`;
    try {
      await db.query('insert into bookings (reference, registration, arrival, slot, details) values ($1, $2, $3, $4, $5)', [
        reference,
        passage.registration,
        passage.arrival,
        passage.slot,
        // Which certificate was shown, not the certificate.
        JSON.stringify({ ...passage, insurance: passage.insurance.name }),
      ]);
      return { reference };
    } catch (error) {
      const { constraint = '' } = error as { constraint?: string };
      // Somebody has that reference already: another is drawn.
      if (constraint === 'bookings_pkey') return undefined;
      const conflict = CONFLICTS[constraint];
      if (conflict) return { conflict };
      throw new Unavailable('The booking could not be written.', { cause: error });
    }
  };
  const ask = <R>(sql: string, values: unknown[]): Promise<{ rows: R[] }> =>
    db.query<R>(sql, values).catch((error: unknown) => {
      throw new Unavailable('The database did not answer.', { cause: error });
    });
  return {
    async register(registration) {
      const { rows } = await ask<{ name: string; booked: string | null }>(
        'select name, arrival::text as booked from vessels left join bookings using (registration) where registration = $1',
        [registration],
      );
      const [row] = rows;
      return row ? { known: true, vessel: row.name, booked: row.booked } : { known: false };
    },
    async booking(reference) {
      const { rows } = await ask<Stored>(
        'select reference, arrival::text as arrival, slot, details, version from bookings where reference = $1',
        [reference],
      );
      return rows[0];
    },
    async change(reference, version, details) {
      // The version decides, in one statement: of two who write at once, one finds it gone.
      const { rows } = await ask<{ version: number }>(
        'update bookings set details = $3, version = version + 1 where reference = $1 and version = $2 returning version',
        [reference, version, JSON.stringify(details)],
      );
      return rows[0]?.version;
    },
    async book(passage) {
      for (let tries = 0; tries < 5; tries += 1) {
        const booked = await insert(passage);
        if (booked) return booked;
      }
      throw new Unavailable('No free reference was found.');
    },
    close: () => db.close(),
  };
}
