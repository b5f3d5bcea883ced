// The booking form as the command line checks it: paper forms typed in at the office. The register is not asked.

import { passageForm } from '../src/passage.ts';

export const passage = passageForm((registration) => Promise.resolve({ known: true, vessel: registration, booked: null }));
