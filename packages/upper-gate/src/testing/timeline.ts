// A timeline: what a trace says, as it is drawn. Tracks for each field (what the user did, async rules, findings) with marks
// and spans, and what happened as sentences. It has no durations of the machine, so the same rehearsal has the same one each time.

import type { Entry, TraceData } from '../trace/entries.ts';

/** The version of the format. */
const VERSION = 1;

/** A moment on a track. */
export interface TimelineMark {
  readonly at: number;
  readonly kind: 'edited' | 'left' | 'answered' | 'dropped' | 'late' | 'submitted' | 'reset' | 'row' | 'fact';
}

/** A stretch of time on a track. `shown`: of a finding, that it may be seen. */
export interface TimelineSpan {
  readonly from: number;
  readonly to: number;
  readonly kind: 'paused' | 'asked' | 'found' | 'shown' | 'checking' | 'sending';
}

/** What one of its lanes follows: what is done at a field, an async rule on it, a finding. */
export interface TimelineTrack {
  readonly name: string;
  readonly marks: readonly TimelineMark[];
  readonly spans: readonly TimelineSpan[];
}

/** A field; `''` is the form. */
export interface TimelineLane {
  readonly path: string;
  readonly tracks: readonly TimelineTrack[];
}

/** Something that happened, in words. */
export interface TimelineMoment {
  readonly at: number;
  readonly path: string;
  readonly text: string;
}

/** A timeline, as data. */
export interface Timeline {
  readonly version: typeof VERSION;
  readonly name: string;
  /** How long it is, in milliseconds. */
  readonly length: number;
  readonly lanes: readonly TimelineLane[];
  readonly moments: readonly TimelineMoment[];
}

interface Track {
  readonly name: string;
  readonly marks: TimelineMark[];
  readonly spans: TimelineSpan[];
  /** The span that is not over. */
  open: { readonly from: number; readonly kind: TimelineSpan['kind'] } | undefined;
}

const emptyTrack = (name: string): Track => ({ name, marks: [], spans: [], open: undefined });

const quoted = (value: unknown): string => (value === undefined ? 'a private value' : JSON.stringify(value));
const ofRule = ({ rule, name }: { readonly rule: string; readonly name?: string }): string => name ?? rule;
const codes = (found: readonly { readonly code: string; readonly message?: string }[]): string =>
  found.map(({ code, message }) => (message === undefined ? code : `${code} (${quoted(message)})`)).join(', ');

const WHY = {
  notApplying: 'the field does not apply',
  notYet: 'its moment has not come',
  empty: 'the field is empty',
  unreadable: 'the value cannot be read',
  hasErrors: 'another rule has found an error',
  covered: 'another rule has reported',
  untouched: 'nobody has edited the field',
} as const;

/** An entry in words; undefined where it goes without saying. */
function worded(entry: Entry): string | undefined {
  switch (entry.kind) {
    case 'edited':
      return entry.by === 'page'
        ? `the user enters ${quoted(entry.raw)}`
        : `${entry.by === 'rule' ? 'a rule' : `the ${entry.by}`} sets ${quoted(entry.raw)}`;
    case 'rebased':
      return `${quoted(entry.raw)} comes from outside`;
    case 'left':
      return entry.by === 'page' ? 'the user leaves the field' : 'the program leaves the field';
    case 'reset':
      return 'is reset';
    case 'rowAdded':
      return `row ${entry.to} is added`;
    case 'rowRemoved':
      return `row ${entry.from} is removed`;
    case 'rowMoved':
      return `row ${entry.from} is moved to ${entry.to}`;
    case 'submitted':
      return 'the form is submitted';
    case 'validated':
      return 'all rules run again';
    case 'contextChanged':
      return `the fact ${entry.name} changes`;
    case 'ran':
      return entry.found.length > 0 ? `${ofRule(entry)} finds ${codes(entry.found)}` : undefined;
    case 'skipped':
      return entry.why === 'waits'
        ? `${ofRule(entry)} waits for ${entry.for!}`
        : entry.why === 'empty'
          ? undefined
          : `${ofRule(entry)} does not run: ${WHY[entry.why]}`;
    case 'waiting':
      return `${ofRule(entry)} waits for a pause of ${entry.pause} ms`;
    case 'started':
      return `${ofRule(entry)} asks`;
    case 'answered':
      return entry.options
        ? `${ofRule(entry)} brings ${entry.options.length} options`
        : `${ofRule(entry)} answers: ${codes(entry.found) || 'right'}`;
    case 'recalled':
      return `${ofRule(entry)} knows the answer: ${codes(entry.found) || 'right'}`;
    case 'unanswered':
      return entry.why === 'waits' ? `${ofRule(entry)} waits for a value` : `${ofRule(entry)} gets no answer (${entry.why})`;
    case 'aborted':
      return entry.was === 'settled' ? undefined : `${ofRule(entry)} is dropped`;
    case 'cameLate':
      return `an answer to ${ofRule(entry)} comes too late, and has no effect`;
    case 'appliesChanged':
      return entry.applies ? 'applies now' : 'does not apply any more';
    case 'found':
      return entry.by ? `the ${entry.by} finds ${codes([entry.finding])}` : undefined;
    case 'gone':
      return `${entry.finding.code} is gone`;
    case 'shown':
      return `${codes([entry.finding])} is shown`;
    case 'hidden':
      return `${entry.finding.code} is not shown any more`;
    case 'focused':
      return 'gets the focus';
    case 'announced':
      return `announced: ${quoted(entry.text)}`;
    case 'submission':
      return `the submission is ${entry.status}${entry.by ? ` by the ${entry.by}` : ''}`;
    case 'faulted':
      return `${entry.rule} throws ${entry.error}`;
  }
}

/**
 * Makes the timeline of a trace.
 *
 * @param trace the trace, as data
 * @param options its name, and how long it is in milliseconds; default: as long as the trace
 * @returns the timeline, as data
 *
 * @example
 * console.log(timelineText(timelineOf(trace.toJSON())));
 */
export function timelineOf(trace: TraceData, options: { readonly name?: string; readonly length?: number } = {}): Timeline {
  const { name = 'Timeline', length = trace.length } = options;
  const lanes = new Map<string, Map<string, Track>>();
  const trackOf = (path: string, title: string): Track => {
    const lane = lanes.get(path) ?? new Map<string, Track>([['user', emptyTrack('user')]]);
    lanes.set(path, lane);
    const track = lane.get(title) ?? emptyTrack(title);
    lane.set(title, track);
    return track;
  };
  const close = (track: Track, at: number): void => {
    if (track.open) track.spans.push({ ...track.open, to: at });
    track.open = undefined;
  };
  const begin = (track: Track, at: number, kind: TimelineSpan['kind']): void => {
    close(track, at);
    track.open = { from: at, kind };
  };
  const mark = (path: string, title: string, at: number, kind: TimelineMark['kind']): void =>
    void trackOf(path, title).marks.push({ at, kind });

  // (Where nothing happens, there is nothing to see.)
  const places = new Set(trace.entries.map((entry) => ('path' in entry ? entry.path : '')));
  for (const finding of trace.findings.filter(({ path }) => places.has(path)))
    begin(
      trackOf(finding.path, finding.code),
      0,
      trace.shown.some((each) => each.path === finding.path && each.code === finding.code) ? 'shown' : 'found',
    );
  for (const entry of trace.entries) {
    const { at } = entry;
    const path = 'path' in entry ? entry.path : '';
    switch (entry.kind) {
      case 'edited':
      case 'rebased':
        mark(path, 'user', at, 'edited');
        break;
      case 'left':
        mark(path, 'user', at, 'left');
        break;
      case 'reset':
        mark(path, 'user', at, 'reset');
        break;
      case 'rowAdded':
      case 'rowRemoved':
      case 'rowMoved':
        mark(path, 'user', at, 'row');
        break;
      case 'contextChanged':
        mark('', 'facts', at, 'fact');
        break;
      case 'submitted':
        mark('', 'submission', at, 'submitted');
        break;
      case 'submission': {
        const track = trackOf('', 'submission');
        if (entry.status === 'checking' || entry.status === 'sending') begin(track, at, entry.status);
        else {
          if (track.open) track.marks.push({ at, kind: entry.status === 'accepted' ? 'answered' : 'dropped' });
          close(track, at);
        }
        break;
      }
      case 'waiting':
        begin(trackOf(path, ofRule(entry)), at, 'paused');
        break;
      case 'started':
        begin(trackOf(path, ofRule(entry)), at, 'asked');
        break;
      case 'answered':
      case 'recalled':
      case 'unanswered':
      case 'aborted': {
        const track = trackOf(path, ofRule(entry));
        close(track, at);
        if (entry.kind !== 'aborted') track.marks.push({ at, kind: entry.kind === 'unanswered' ? 'dropped' : 'answered' });
        else if (entry.was !== 'settled') track.marks.push({ at, kind: 'dropped' });
        break;
      }
      case 'cameLate':
        mark(path, ofRule(entry), at, 'late');
        break;
      case 'found':
        begin(trackOf(path, entry.finding.code), at, 'found');
        break;
      case 'shown':
        begin(trackOf(path, entry.finding.code), at, 'shown');
        break;
      case 'hidden':
        begin(trackOf(path, entry.finding.code), at, 'found');
        break;
      case 'gone':
        close(trackOf(path, entry.finding.code), at);
        break;
      default:
        break;
    }
  }
  for (const lane of lanes.values()) for (const track of lane.values()) close(track, length);
  const moments = trace.entries.flatMap((entry): readonly TimelineMoment[] => {
    const text = worded(entry);
    return text === undefined ? [] : [{ at: entry.at, path: 'path' in entry ? entry.path : '', text }];
  });
  return {
    version: VERSION,
    name,
    length,
    lanes: [...lanes].map(([path, tracks]) => ({
      path,
      tracks: [...tracks.values()]
        .map(({ name: title, marks, spans }) => ({ name: title, marks, spans: spans.filter(({ from, to }) => to > from) }))
        .filter(({ marks, spans }) => marks.length + spans.length > 0),
    })),
    moments,
  };
}
