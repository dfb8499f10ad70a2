import type { JournalDetail } from './model';

/**
 * Every event of the journal in words. A part `{name:kind}` says what it is (`EventParts`), and with it how it is typed in
 * code, stored, told and worded; `{name}` alone is a text.
 */
export const journalEvents = {
  'library.founded': 'founded the library “{name}”',
  'library.changed': 'changed the library’s settings',
  'library.mended': 'had everything that is derived worked out anew',
  'year.opened': 'opened filing year {label}',
  'year.closed': 'closed filing year {label} in {places:number} dossiers: {reason}',
  'year.reopened': 'opened filing year {label} again in {places:number} dossiers: {reason}',
  'series.created': 'made the series “{name}”',
  'series.patternSet': 'set the reference pattern of “{name}” to {pattern}',
  'details.set': 'changed the details of “{name}”: {fields}',
  'details.fieldsSet': 'set the details that “{name}” has of its dossiers: {fields}',
  'expected.waived': 'said that “{expected}” of “{of}” is not needed: {reason}',
  'expected.pointed': 'said which paper is “{expected}” of “{of}”',
  'expected.unsaid': 'took back what was said of “{expected}” of “{of}”',
  'expected.asked': 'asked {person} for “{expected}” of “{of}”',
  'plan.set': 'changed the filing plan of “{name}”',
  'meetings.made': 'made {count} of “{name}”, the first on {first:day}',
  'meeting.changed': 'changed the meeting of {before:day} of “{name}”: {title}, {day:day}',
  'meeting.removed': 'took the meeting “{title}” of {day:day} out of “{name}”',
  'agenda.begun': 'began the {agenda}',
  'agenda.set': 'changed the time or the numbers of the {agenda}',
  'agenda.itemsAdded': 'put {count} on the {agenda}',
  'agenda.itemChanged': 'changed item {number} of the {agenda}',
  'agenda.itemMoved': 'moved an item of the {agenda} from {from} to {to}',
  'agenda.itemRemoved': 'took item {number} off the {agenda}',
  'agenda.itemPutBack': 'put item {number} back on the {agenda}',
  'agenda.papersAttached': 'put {count:papers} under item {number} of the {agenda}',
  'agenda.paperChanged': 'changed a paper of item {number} of the {agenda}',
  'agenda.paperDetached': 'took a paper out of item {number} of the {agenda}',
  'agenda.called': 'asked {person} for a paper under item {number} of the {agenda}',
  'agenda.uncalled': 'took back that {person} is asked for a paper under item {number} of the {agenda}',
  'agenda.handedIn': 'handed in the paper that was asked for under item {number} of the {agenda}',
  'agenda.handedBack': 'said that the paper under item {number} of the {agenda} was not the one asked for',
  'agenda.filingAsked': 'had the {agenda} filed',
  'agenda.filed': 'filed the {agenda}',
  'attendance.added': 'wrote down that {count} attend the meeting of {day:day} of “{name}”',
  'attendance.changed': 'changed how {person} attends the meeting of {day:day} of “{name}”',
  'attendance.removed': 'took {person} off those who attend the meeting of {day:day} of “{name}”',
  'attendance.answered': 'answered to the meeting of {day:day} of “{name}”',
  'attendance.noted': 'noted whether {count} were at the meeting of {day:day} of “{name}”',
  'outcome.recorded': 'recorded a {kind} under item {number} of the {agenda}',
  'outcome.changed': 'changed a {kind} under item {number} of the {agenda}',
  'outcome.removed': 'removed a {kind} under item {number} of the {agenda}',
  'outcome.putBack': 'put back a {kind} under item {number} of the {agenda}',
  'action.done': 'said that an action of the meeting of {day:day} of “{name}” is done',
  'action.reopened': 'said that an action of the meeting of {day:day} of “{name}” is open again',
  'minutes.begun': 'began the minutes of the meeting of {day:day} of “{name}”: “{title}”',
  'minutes.taken': 'said that “{title}” is the minutes of the meeting of {day:day} of “{name}”',
  'minutes.writtenIn': 'put {count} into the minutes of the meeting of {day:day} of “{name}”',
  'minutes.agreed': 'said that the minutes of the meeting of {day:day} of “{name}” were agreed on {on:day}',
  'minutes.notAgreed': 'said that the minutes of the meeting of {day:day} of “{name}” are not agreed',
  'pack.begun': 'began the pack “{name}”',
  'pack.changed': 'changed the pack “{name}”',
  'pack.papersAdded': 'put {count:papers} into the pack “{name}”',
  'pack.issueAsked': 'had {called} of the pack “{name}” made',
  'pack.issued': 'issued the pack “{name}”, {called}, with {pages:number} pages',
  'pack.stopped': 'stopped {called} of the pack “{name}”',
  'pack.told': 'told {count} of {called} of the pack “{name}” by mail',
  'pack.withdrawn': 'withdrew {called} of the pack “{name}”: {reason}',
  'dossiers.created': 'made {count} in “{name}”, with {folders:number} folders of the plan',
  'dossier.created': 'made the dossier “{name}”',
  'dossier.referenceSet': 'changed the reference of “{name}” from {from} to {to}',
  'folder.created': 'made the folder “{name}”',
  'folder.madeCommon': 'made “{name}” common to all dossiers of “{series}”',
  'folder.madeOwn': 'made “{name}”, which was common, only that of “{dossier}”',
  'folder.seenIn': 'changed where the common folder “{name}” is seen',
  'folder.meetingSet': 'made “{name}” the folder of the meeting on {day:day}',
  'folder.meetingUnset': 'made “{name}” the folder of no meeting any more',
  'place.renamed': 'renamed “{from}” to “{to}”',
  'place.reordered': 'changed the order in “{name}”',
  'place.moved': 'moved “{name}” from “{from:place}” to “{to:place}”',
  'place.recoloured': 'changed the colour of “{name}”',
  'place.removed': 'removed the empty place “{name}”',
  'place.closed': 'closed “{name}”: {reason}',
  'place.reopened': 'opened “{name}” again: {reason}',
  'place.locked': 'locked “{name}”: {reason}',
  'place.unlocked': 'unlocked “{name}”: {reason}',
  'papers.locked': 'locked {count:papers}',
  'papers.unlocked': 'unlocked {count:papers}',
  'arrival.filed': 'filed {count:papers} that came from {from} in “{place:place}”',
  'arrival.filedAndTold': 'filed {count:papers} that came from {from} in “{place:place}” and told {people}',
  'arrival.setAside': 'set aside what came from {from}: not ours',
  'filingRule.kept': 'kept the filing rule “{name}”',
  'filingRule.moved': 'moved the filing rule “{name}”',
  'filingRule.removed': 'removed the filing rule “{name}”',
  'wayIn.kept': 'set up the way in “{name}”',
  'store.picked': 'had {count:number} papers of the connected store “{name}” taken',
  'wayIn.removed': 'removed the way in “{name}”',
  'wayIn.restored': 'brought the way in “{name}” back',
  'intake.answers': 'had senders told that their mail has arrived',
  'intake.answersNot': 'had senders told nothing any more',
  'arrival.filedByRule': 'had {count:papers} that came from {from} filed in “{place:place}” by the rule “{rule}”',
  'arrival.filedByRuleAndTold':
    'had {count:papers} that came from {from} filed in “{place:place}” by the rule “{rule}” and told {people}',
  'arrival.cut': 'had the scan {name} made into {count:number} papers',
  'arrivals.joined': 'had {count:number} arrivals made into one paper, {name} the first',
  'arrivals.putIn': 'put {count:number} files into the intake',
  'arrival.putOff': 'put off what came from {from} until {until:day}',
  'arrival.wanted': 'had what came from {from} wait now',
  'arrival.asked': 'asked {person} about what came from {from}',
  'arrivals.takenBack': 'had {count:number} arrivals checked again',
  'arrival.takenBack': 'had what came from {from} checked again',
  'paper.filed': 'filed “{title}”',
  'papers.filed': 'filed {count:papers} in “{to:place}”',
  'papers.told': 'told {people} of {count:papers} just filed',
  'paper.coverSet': 'chose what the cover of “{title}” shows',
  'note.startSet': 'offered “{title}” as a start for notes',
  'note.startUnset': 'took “{title}” from the starts for notes',
  'paper.versionFiled': 'filed version {number:number} of “{title}”',
  'paper.versionRestored': 'brought version {from:number} of “{title}” back as version {number:number}',
  'paper.renamed': 'renamed “{from}” to “{to}”',
  'paper.noted': 'changed the remark on “{title}”',
  'papers.moved': 'moved {count:papers} to “{to:place}”',
  'papers.crossFiled': 'filed {count:papers} in “{to:place}” as well, {how}',
  'papers.exported': 'exported {count:papers}',
  'places.exported': 'exported all papers of “{from:place}”',
  'papers.copied': 'made {count:papers} in “{to:place}” by copying',
  'paper.newerTaken': 'took version {number:number} of “{title}” from the paper that it is a copy of',
  'paper.left': 'took “{title}” out of “{from:place}”, where it was filed as well',
  'papers.left': 'took {count:papers} out of “{from:place}”, filed there as well',
  'papers.disposed': 'put {count:papers} into the disposal tray',
  'papers.putBack': 'put {count:papers} back from the disposal tray',
  'papers.putBackElsewhere': 'put {count:papers} from the disposal tray into “{to:place}”',
  'papers.destroyed': 'destroyed {count:papers} that lay in the disposal tray',
  'papers.expired': 'destroyed {count:papers} whose days in the disposal tray were over',
  'review.ruleSet': 'set how papers of “{name}” are reviewed, {of}: {how}',
  'review.ruleRemoved': 'removed how papers of “{name}” are reviewed, {of}',
  'review.ownSet': 'set how “{title}” is reviewed: {how}',
  'review.done': 'reviewed version {number:number} of “{title}”: {outcome}',
  'review.takenBack': 'took back the review of “{title}” of {day:day}',
  'signoff.asked': 'asked {of} to sign off version {number:number} of “{title}”',
  'signoff.agreed': 'signed off version {number:number} of “{title}”',
  'signoff.declined': 'declined to sign off version {number:number} of “{title}”: {reason}',
  'signoff.agreedOutside': 'noted that {name}, outside, signed version {number:number} of “{title}”',
  'signoff.declinedOutside':
    'noted that {name}, outside, declined to sign version {number:number} of “{title}”: {reason}',
  'signoff.released': 'let {name} off signing version {number:number} of “{title}”: {reason}',
  'signoff.calledAgain': 'asked {name} again to sign off version {number:number} of “{title}”',
  'signoff.reminded': 'reminded {who} to sign off version {number:number} of “{title}”',
  'signoff.withdrawn': 'withdrew the signatures asked for of version {number:number} of “{title}”: {reason}',
  'signoff.sealed': 'sealed version {number:number} of “{title}” with its signatures, as “{signed}”',
  'signoff.sealedAgain': 'had the signed copy of version {number:number} of “{title}” made again',
  'signoff.markedOnPaper': 'noted that {who} signed version {number:number} of “{title}” on paper, as “{scan}” shows',
  'hold.placed': 'put the hold “{name}” on {count}: {reason}',
  'hold.extended': 'put {count} more under the hold “{name}”',
  'hold.released': 'took “{thing}” out of the hold “{name}”',
  'hold.lifted': 'lifted the hold “{name}”: {reason}',
  'retention.classPut': 'set the retention class “{name}”: {how}',
  'retention.classRemoved': 'removed the retention class “{name}”',
  'retention.given': 'gave {of} of “{at:place}” the retention class “{name}”',
  'retention.takenAway': 'took the retention class “{name}” from {of} of “{at:place}”',
  'retention.takenIn': 'took in a retention schedule: {added:number} new classes, {changed:number} changed',
  'run.prepared': 'prepared the disposal of {count:papers} by the schedule',
  'run.leftOut': 'left {count:papers} out of a disposal by the schedule: {reason}',
  'run.putIn': 'put {count:papers} into a disposal by the schedule again',
  'run.approved': 'approved a disposal by the schedule: {count:papers} into the disposal tray',
  'run.abandoned': 'abandoned a disposal by the schedule',
  'run.ended': 'ended a disposal by the schedule: {destroyed:number} papers destroyed, certificate “{title}”',
  'column.defined': 'defined the column “{name}” for “{place}”',
  'column.changed': 'changed the column “{name}”',
  'column.retyped': 'changed the type of the column “{name}” from {from} to {to}',
  'column.retired': 'retired the column “{name}”',
  'column.restored': 'brought the column “{name}” back',
  'column.reordered': 'changed the order of the columns',
  'list.created': 'made the controlled list “{name}”',
  'list.renamed': 'renamed the controlled list “{from}” to “{to}”',
  'list.imported': 'brought {added:number} values into the list “{name}”',
  'term.added': 'put “{name}” on the list “{list}”',
  'term.changed': 'changed “{from}” to “{name}” on the list “{list}”',
  'term.retired': 'retired “{name}” on the list “{list}”',
  'term.restored': 'brought “{name}” back on the list “{list}”',
  'term.reordered': 'changed the order of the list “{list}”',
  'term.merged': 'merged “{name}” into “{into}” on the list “{list}”',
  'given.set': 'set what “{name}” gives to its papers',
  'values.set': 'set {columns} of {count:papers}',
  'values.undone': 'undid the setting of {columns} of {count:papers}',
  'label.created': 'made the label “{name}”',
  'label.changed': 'changed the label “{from}” to “{name}”',
  'label.removed': 'removed the label “{name}”',
  'label.merged': 'merged the label “{name}” into “{into}”',
  'label.put': 'put the label “{name}” on {count:papers}',
  'label.takenOff': 'took the label “{name}” off {count:papers}',
  'papers.reordered': 'changed the order of {count:papers} in “{name:place}”',
  'view.saved': 'saved the view “{name}” of “{place}”',
  'view.changed': 'changed the view “{name}” of “{place}”',
  'view.removed': 'removed the view “{name}” of “{place}”',
  'view.reordered': 'changed the order of the views of “{place}”',
  'access.changed': 'changed who may open “{name}”',
  'seeAs.started': 'began to see the library as {name} would',
  'seeAs.ended': 'saw the library as {name} would no longer',
  'person.invited': 'invited {email}',
  'person.joined': 'joined the library',
  'person.switchedOff': 'turned off the account of {name}',
  'person.switchedOn': 'turned the account of {name} on again',
  'person.keeperSet': 'made {name} a keeper',
  'person.keeperUnset': 'made {name} a keeper no longer',
  'person.outsideSet': 'noted that {name} does not belong to the organisation',
  'person.outsideUnset': 'noted that {name} belongs to the organisation',
  'person.secondStepDropped': 'took two-step sign-in off the account of {name}',
  'token.created': 'made the token “{name}”, which may {capabilities}, until {until:day}',
  'token.withdrawn': 'withdrew the token “{name}”',
  'link.made': 'made an outside link',
  'link.withdrawn': 'withdrew an outside link',
  'group.created': 'made the group “{name}”',
  'group.changed': 'changed the group “{name}”',
  'group.removed': 'removed the group “{name}”',
} as const;
export type JournalAct = keyof typeof journalEvents;

/** A place that an event names. Readers who may not know of it are told the event without its name. */
export interface NamedPlace {
  /** Null for several places that are not named. */
  readonly id: string | null;
  readonly name: string;
}

/** The kinds of part that an event has, as code hands them in. */
export interface EventParts {
  readonly text: string | number | null;
  readonly number: number;
  /** ISO 8601. */
  readonly day: string;
  readonly place: NamedPlace;
  /** Papers: one is named, several are counted, and for a reader only those that they may know of. */
  readonly papers: readonly { readonly title: string }[];
}
type Kind = keyof EventParts;

type PartsIn<Words> = Words extends `${string}{${infer Part}}${infer Rest}`
  ? (Part extends `${infer Name}:${infer K extends Kind}`
      ? { readonly [N in Name]: EventParts[K] }
      : { readonly [N in Part]: EventParts['text'] }) &
      PartsIn<Rest>
  : unknown;

/** What an event of an act says: its parts by type, and further plain facts that its words leave out. */
export type EventDetail<A extends JournalAct> = PartsIn<(typeof journalEvents)[A]> & {
  readonly [further: string]: EventParts[Kind] | boolean;
};

/** An event: what was done, what it concerned (the ids of places, papers and people), and its details. */
export type JournalEvent = {
  [A in JournalAct]: { readonly act: A; readonly subjects: readonly string[]; readonly detail: EventDetail<A> };
}[JournalAct];

/** The parts in an event's words, in their order; those of one kind where a kind is given. */
export function partsOf(words: string, only?: Kind): string[] {
  return [...words.matchAll(partPattern)].flatMap(([, name, kind = 'text']) =>
    name !== undefined && (only === undefined || kind === only) ? [name] : [],
  );
}

/** A part in an event's words: its name, and its kind where it is no text. */
export const partPattern = /\{(\w+)(?::(\w+))?\}/gu;

/** Whether an act is one that this version knows. */
export const isAct = (text: string): text is JournalAct => Object.hasOwn(journalEvents, text);

/**
 * An event's details as they are stored and sealed: flat. A place is stored as its name, with its id (or null) under `…Id`;
 * papers as their number, with the title of a single one under `…Title`.
 */
export function storedDetail({ act, detail }: Pick<JournalEvent, 'act' | 'detail'>): JournalDetail {
  const words = journalEvents[act];
  const [places, papers] = [new Set(partsOf(words, 'place')), new Set(partsOf(words, 'papers'))];
  return Object.fromEntries(
    Object.entries(detail).flatMap(([key, value]): [string, JournalDetail[string]][] => {
      if (places.has(key)) return storedPlace(key, value as NamedPlace);
      if (papers.has(key)) return storedPapers(key, value as EventParts['papers']);
      return [[key, value as JournalDetail[string]]];
    }),
  );
}

const storedPlace = (key: string, { id, name }: NamedPlace): [string, string | null][] => [
  [key, name],
  [`${key}Id`, id],
];

const storedPapers = (key: string, papers: EventParts['papers']): [string, string | number][] => [
  [key, papers.length],
  ...(papers.length === 1 && papers[0] ? [[`${key}Title`, papers[0].title] satisfies [string, string]] : []),
];
