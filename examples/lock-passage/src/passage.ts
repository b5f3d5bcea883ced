// The booking of a passage: declared once, for the pages and for the server, in three languages.

import {
  fieldRules,
  groupRules,
  asyncCheck,
  boolean,
  check,
  choice,
  choices,
  date,
  email,
  file,
  fileSize,
  fileType,
  group,
  integer,
  interval,
  length,
  list,
  mustBeTrue,
  number,
  pattern,
  range,
  required,
  requiredWhen,
  sameAs,
  text,
  time,
  variant,
  type DataOf,
  type RawOf,
} from 'upper-gate';

/** What the register of vessels knows about a registration. */
export type RegisterEntry = { known: false } | { known: true; vessel: string; booked: string | null };

/** Asks the register: the page over HTTP, the server in its database. */
export type AskRegister = (registration: string, signal: AbortSignal) => Promise<RegisterEntry>;

/** The lockages of a day. */
export const SLOTS = ['07:00', '10:00', '13:00', '16:00'] as const;
export const KINDS = ['barge', 'canoe', 'narrowboat', 'yacht'] as const;
export const KIT = ['lifejackets', 'horn', 'lights', 'extinguisher'] as const;
export const LOADS = ['none', 'goods', 'dangerous'] as const;

/** The chamber, in metres. */
export const CHAMBER = { length: 30, beam: 5.2 };

const say = (en: string, de: string, ar: string) => ({ en, de, ar });
const labelled = (en: string, de: string, ar: string) => ({ label: say(en, de, ar) });

/** Keeps what is written from left to right together within Arabic, on one line. */
const ltr = (text: string): string => `\u2066${text.replaceAll('-', '\u2060-\u2060')}\u2069`;

const permit = text(
  {
    label: say('Permit', 'Genehmigung', 'التصريح'),
    hint: say('As on the paper: P-2027-041', 'Wie auf dem Papier: P-2027-041', `كما في الورقة: ${ltr('P-2027-041')}`),
  },
  required(),
  pattern(/^P-\d{4}-\d{3}$/, {
    message: say(
      'Permit: P, four digits, three digits',
      'Genehmigung: P, vier Ziffern, drei Ziffern',
      'التصريح: P ثم أربعة أرقام ثم ثلاثة',
    ),
  }),
);
const what = text(labelled('What is on board', 'Was an Bord ist', 'ما على المتن'), required(), length({ max: 60 }));
const tonnes = number(labelled('Tonnes', 'Tonnen', 'بالأطنان'), required(), range({ min: 0.1, max: 60 }));

const crewMember = group({
  name: text(labelled('Name', 'Name', 'الاسم'), required(), length({ max: 60 })),
  age: integer(labelled('Age', 'Alter', 'العمر'), required(), range({ min: 0, max: 120 })),
});

/** A call needs a number. */
export const wantsPhone = requiredWhen(
  function callIsWanted(boat: { readonly callBack: boolean }) {
    return boat.callBack;
  },
  {
    message: say('Phone is required if we are to call you back', 'Telefon: für den Rückruf nötig', 'الهاتف: مطلوب لنتصل بكم'),
  },
);

/** With its fenders a boat is larger than it is. */
export const fitsTheChamber = check(
  function fitsTheChamber(boat: { readonly lengthM: number; readonly beam: number }) {
    return boat.lengthM * boat.beam <= 120;
  },
  {
    message: say(
      'Length times beam is over 120 m²: together with its fenders this boat does not fit the chamber',
      'Länge mal Breite ist über 120 m²: samt Fendern passt dieses Boot nicht in die Kammer',
      'حاصل ضرب الطول في العرض أكثر من 120 م²: لا يتسع الهويس لهذا القارب',
    ),
  },
);

/** The form, given a way to ask the register. Its functions have names, so that it can be written as JSON Schema. */
export function passageForm(askRegister: AskRegister) {
  return group({
    vessel: text(
      {
        label: say('Vessel name', 'Name des Bootes', 'اسم القارب'),
        hint: say('As painted on the bow', 'Wie am Bug zu lesen', 'كما هو مكتوب على المقدمة'),
      },
      required(),
      length({ min: 2, max: 40 }),
    ),
    registration: text(
      {
        label: say('Registration', 'Kennzeichen', 'رقم التسجيل'),
        hint: say(
          'Two letters, a dash, four digits: OT-1204',
          'Zwei Buchstaben, Strich, vier Ziffern: OT-1204',
          `حرفان ثم شرطة ثم أربعة أرقام: ${ltr('OT-1204')}`,
        ),
        case: 'upper',
      },
      required(),
      pattern(/^[A-Z]{2}-\d{4}$/, {
        message: say(
          'Registration: two letters, a dash, four digits',
          'Kennzeichen: zwei Buchstaben, Strich, vier Ziffern',
          'رقم التسجيل: حرفان ثم شرطة ثم أربعة أرقام',
        ),
      }),
      asyncCheck(
        async function isOnRegister(registration, { signal }) {
          const entry = await askRegister(registration, signal);
          if (!entry.known)
            return {
              message: say(
                `${registration} is not on the register of vessels`,
                `${registration} steht nicht im Bootsregister`,
                `${ltr(registration)} غير موجود في سجل القوارب`,
              ),
            };
          if (entry.booked !== null)
            return {
              code: 'taken',
              message: say(
                `${registration} already has a passage booked, on ${entry.booked}`,
                `${registration} hat schon eine Schleusung gebucht, am ${entry.booked}`,
                `لدى ${ltr(registration)} عبور محجوز بتاريخ ${ltr(entry.booked)}`,
              ),
            };
          return {
            severity: 'notice',
            message: say(`On the register: ${entry.vessel}`, `Im Register: ${entry.vessel}`, `في السجل: ${entry.vessel}`),
          };
        },
        { name: 'isOnRegister', debounce: 350, timeout: 6000 },
      ),
    ),
    lengthM: number(labelled('Length (m)', 'Länge (m)', 'الطول (م)'), required(), range({ min: 2, max: CHAMBER.length })),
    beam: number(labelled('Beam (m)', 'Breite (m)', 'العرض (م)'), required(), range({ min: 0.5, max: CHAMBER.beam })),
    kind: choice(labelled('Kind of boat', 'Art des Bootes', 'نوع القارب'), KINDS, required()),
    arrival: date(labelled('Day', 'Tag', 'اليوم'), required(), range({ min: '2027-03-01', max: '2027-10-31' })),
    slot: choice(labelled('Lockage', 'Schleusung', 'موعد العبور'), SLOTS, required()),
    window: interval(
      labelled('At the upper gate', 'Am Obertor', 'عند البوابة العليا'),
      time(labelled('Earliest arrival', 'Früheste Ankunft', 'أول موعد للوصول'), required(), range({ min: '06:00', max: '20:00' })),
      time(labelled('Latest arrival', 'Späteste Ankunft', 'آخر موعد للوصول'), required(), range({ min: '06:00', max: '20:00' })),
    ),
    crew: list(
      {
        ...labelled('Crew on board', 'Besatzung an Bord', 'الطاقم'),
        rowLabel: { en: 'Crew member', de: 'Besatzungsmitglied', ar: 'عضو الطاقم' },
      },
      crewMember,
      length({ min: 1, max: 12 }),
    ),
    cargo: variant(
      labelled('Cargo', 'Ladung', 'الحمولة'),
      'load',
      { none: group({}), goods: group({ what, tonnes }), dangerous: group({ what, tonnes, permit }) },
      required(),
    ),
    kit: choices(
      {
        label: say('Safety kit on board', 'Sicherheitsausrüstung', 'معدات السلامة'),
        hint: say('Two at least', 'Mindestens zwei', 'اثنان على الأقل'),
      },
      KIT,
      required(),
      length({ min: 2 }),
    ),
    insurance: file(
      {
        label: say('Insurance certificate', 'Versicherungsnachweis', 'شهادة التأمين'),
        hint: say('PDF or picture, up to 2 MB', 'PDF oder Bild, bis 2 MB', 'ملف PDF أو صورة، حتى 2 م.ب'),
      },
      required(),
      fileType('.pdf,image/*'),
      fileSize({ max: 2_000_000 }),
    ),
    email: text(labelled('E-mail', 'E-Mail', 'البريد الإلكتروني'), required(), email()),
    emailAgain: text(labelled('Repeat e-mail', 'E-Mail wiederholen', 'كرر البريد الإلكتروني'), required()),
    callBack: boolean(labelled('Call me back about this passage', 'Rufen Sie mich dazu zurück', 'اتصلوا بي بشأن هذا العبور')),
    phone: text(
      labelled('Phone', 'Telefon', 'الهاتف'),
      pattern(/^\+?[\d ]{6,20}$/, {
        message: say(
          'Phone: digits and spaces, perhaps a plus in front',
          'Telefon: Ziffern und Leerzeichen, vorn ein Plus',
          'الهاتف: أرقام ومسافات، وقد تسبقها علامة زائد',
        ),
      }),
    ),
    remarks: text(
      {
        label: say('Remarks', 'Bemerkungen', 'ملاحظات'),
        hint: say('Anything the lock keeper should know', 'Was der Schleusenwärter wissen sollte', 'ما ينبغي أن يعرفه حارس القناة'),
      },
      length({ max: 300 }),
    ),
    terms: boolean(
      labelled('I have read the rules of the flight', 'Ich habe die Schleusenordnung gelesen', 'قرأت قواعد العبور'),
      mustBeTrue(),
    ),
  })
    .with(
      fieldRules({
        emailAgain: sameAs('email'),
        phone: wantsPhone,
        beam: check(
          function isNotWiderThanLong(beam, boat) {
            return beam <= boat.lengthM;
          },
          {
            message: say('A boat is not wider than it is long', 'Ein Boot ist nicht breiter als lang', 'لا يكون القارب أعرض من طوله'),
          },
        ),
        crew: check(
          function fitsTheCanoe(crew, boat) {
            return boat.kind !== 'canoe' || crew.length <= 3;
          },
          {
            message: say('A canoe takes at most 3', 'Ein Kanu fasst höchstens 3', 'الزورق يتسع لثلاثة على الأكثر'),
          },
        ),
      }),
    )
    .with(groupRules(fitsTheChamber));
}

type Form = ReturnType<typeof passageForm>;
export type Passage = DataOf<Form>;
export type PassageRaw = RawOf<Form>;

/** What the form begins with. */
export const BEGINNING = { crew: [{}] };
