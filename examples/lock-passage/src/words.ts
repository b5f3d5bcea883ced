// What the pages say beside the form itself, in the languages that one can choose.

import type { Catalogue } from 'upper-gate';
import { ar } from 'upper-gate/messages/ar';
import { de } from 'upper-gate/messages/de';

export const LANGUAGES = { en: 'English', de: 'Deutsch', ar: 'العربية' } as const;
export type Language = keyof typeof LANGUAGES;

/** The library's messages; English is built in. */

const EN = {
  place: "Fiddler's Flight · five locks",
  title: 'Book a passage',
  lead: 'Tell us about your boat and when you will be at the upper gate. It takes three minutes.',
  language: 'Language',
  boat: 'Your boat',
  passage: 'Your passage',
  aboard: 'On board',
  reach: 'How we reach you',
  choose: 'Choose …',
  barge: 'Barge',
  canoe: 'Canoe',
  narrowboat: 'Narrowboat',
  yacht: 'Yacht',
  '07:00': 'early',
  '10:00': 'morning',
  '13:00': 'midday',
  '16:00': 'afternoon',
  none: 'No cargo',
  goods: 'Goods',
  dangerous: 'Dangerous goods',
  lifejackets: 'life jackets',
  horn: 'horn',
  lights: 'navigation lights',
  extinguisher: 'fire extinguisher',
  member: 'Crew member',
  addMember: 'Add a crew member',
  remove: 'Remove',
  up: 'Up',
  send: 'Book the passage',
  checking: 'Checking …',
  sending: 'Sending …',
  over: 'Start over',
  restored: 'Your earlier entries are back.',
  gone: 'The booking office cannot be reached just now. Everything you entered is still here. Please try again.',
  booked: 'Booked: {vessel}, {arrival}, {slot}.',
  reference: 'Your reference is {reference}. A confirmation goes to {email}.',
  kept: 'Chosen already: {file}',
  vesselTaken: 'This vessel has a passage booked already',
  slotTaken: 'Somebody has just booked this lockage: please choose another',
  closed: 'The booking office cannot write your booking just now. Please try again in a moment.',
};
export type Word = keyof typeof EN;

const DE: typeof EN = {
  place: 'Fiddlers Schleusentreppe · fünf Schleusen',
  title: 'Eine Schleusung buchen',
  lead: 'Erzählen Sie uns von Ihrem Boot und wann Sie am Obertor sind. Es dauert drei Minuten.',
  language: 'Sprache',
  boat: 'Ihr Boot',
  passage: 'Ihre Fahrt',
  aboard: 'An Bord',
  reach: 'Wie wir Sie erreichen',
  choose: 'Bitte wählen …',
  barge: 'Frachtkahn',
  canoe: 'Kanu',
  narrowboat: 'Schmalboot',
  yacht: 'Jacht',
  '07:00': 'früh',
  '10:00': 'vormittags',
  '13:00': 'mittags',
  '16:00': 'nachmittags',
  none: 'Keine Ladung',
  goods: 'Güter',
  dangerous: 'Gefahrgut',
  lifejackets: 'Rettungswesten',
  horn: 'Signalhorn',
  lights: 'Positionslichter',
  extinguisher: 'Feuerlöscher',
  member: 'Besatzungsmitglied',
  addMember: 'Jemanden hinzufügen',
  remove: 'Entfernen',
  up: 'Nach oben',
  send: 'Schleusung buchen',
  checking: 'Wird geprüft …',
  sending: 'Wird gesendet …',
  over: 'Von vorn',
  restored: 'Was Sie beim letzten Mal eingegeben haben, ist noch da.',
  gone: 'Das Schleusenbüro ist gerade nicht zu erreichen. Alles, was Sie eingegeben haben, ist noch da. Bitte versuchen Sie es noch einmal.',
  booked: 'Gebucht: {vessel}, {arrival}, {slot}.',
  reference: 'Ihre Nummer ist {reference}. Eine Bestätigung geht an {email}.',
  kept: 'Schon ausgewählt: {file}',
  vesselTaken: 'Für dieses Boot ist schon eine Schleusung gebucht',
  slotTaken: 'Diese Schleusung hat gerade jemand gebucht: bitte eine andere wählen',
  closed: 'Das Schleusenbüro kann Ihre Buchung gerade nicht eintragen. Bitte versuchen Sie es gleich noch einmal.',
};

const AR: typeof EN = {
  place: 'سلّم فيدلر · خمسة أهوسة',
  title: 'احجز عبورًا',
  lead: 'أخبرنا عن قاربك ومتى تصل إلى البوابة العليا. يستغرق ذلك ثلاث دقائق.',
  language: 'اللغة',
  boat: 'قاربك',
  passage: 'رحلتك',
  aboard: 'على المتن',
  reach: 'كيف نتواصل معك',
  choose: 'اختر …',
  barge: 'صندل',
  canoe: 'زورق',
  narrowboat: 'قارب ضيق',
  yacht: 'يخت',
  '07:00': 'باكرًا',
  '10:00': 'صباحًا',
  '13:00': 'ظهرًا',
  '16:00': 'عصرًا',
  none: 'بلا حمولة',
  goods: 'بضائع',
  dangerous: 'بضائع خطرة',
  lifejackets: 'سترات نجاة',
  horn: 'بوق',
  lights: 'أضواء ملاحة',
  extinguisher: 'طفاية حريق',
  member: 'فرد الطاقم',
  addMember: 'أضف فردًا',
  remove: 'احذف',
  up: 'إلى أعلى',
  send: 'احجز العبور',
  checking: 'جارٍ التحقق …',
  sending: 'جارٍ الإرسال …',
  over: 'ابدأ من جديد',
  restored: 'احتفظنا بما أدخلته في المرة السابقة.',
  gone: 'لا يمكن الوصول إلى مكتب الحجز الآن. كل ما أدخلته ما زال هنا. حاول مرة أخرى.',
  booked: 'تم الحجز: {vessel}، {arrival}، {slot}.',
  reference: 'رقمك {reference}. سيصل التأكيد إلى {email}.',
  kept: 'اختير من قبل: {file}',
  vesselTaken: 'لهذا القارب عبور محجوز من قبل',
  slotTaken: 'حجز شخص آخر هذا الموعد للتو: اختر غيره',
  closed: 'لا يستطيع مكتب الحجز تسجيل حجزك الآن. حاول مرة أخرى بعد قليل.',
};

const WORDS: Readonly<Record<Language, typeof EN>> = { en: EN, de: DE, ar: AR };

/** The messages of the form; the page has its own words for a submission that broke down. */
export const CATALOGUES: Readonly<Record<Language, Catalogue>> = {
  en: { failed: EN.gone },
  de: { ...de, failed: DE.gone },
  ar: { ...ar, failed: AR.gone },
};

/** What a page says, with `{slots}` filled in. */
export const say = (language: Language, word: Word, values: Readonly<Record<string, string>> = {}): string =>
  WORDS[language][word].replace(/\{(\w+)\}/g, (slot, name: string) => values[name] ?? slot);

/** The language chosen before, as far as the browser still knows. */
export const rememberedLanguage = (): Language => {
  const kept = localStorage.getItem('language');
  return kept !== null && kept in LANGUAGES ? (kept as Language) : 'en';
};

/** The language that a request asks for, by its header `Accept-Language`. */
export const languageOf = (accepted: string | undefined): Language =>
  (accepted ?? '')
    .split(',')
    .map((each) => each.trim().slice(0, 2))
    .find((each): each is Language => each in LANGUAGES) ?? 'en';

/** Has the page itself speak a language: its title and direction, and what assistive technology reads it as. */
export function speak(language: Language): void {
  localStorage.setItem('language', language);
  document.title = `${say(language, 'title')} · ${say(language, 'place')}`;
  document.documentElement.lang = language;
  document.documentElement.dir = language === 'ar' ? 'rtl' : 'ltr';
}
