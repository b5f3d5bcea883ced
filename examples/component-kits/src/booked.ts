/** A booking that somebody comes back to change. */
export const booked = {
  vessel: 'Mallard',
  lengthM: 9.5,
  from: '2027-06-01',
  quay: 'Island',
  services: ['Water', 'Pump-out'],
  power: '16 A',
  lines: ['Spring'],
  fenders: 4,
  early: true,
  guests: ['Ida'],
  rules: true,
} as const;
