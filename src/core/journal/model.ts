/** All acts of the journal with their words; `{…}` parts are filled from the entry's detail. */
export const journalActs = {
  'library.founded': 'founded the library “{name}”',
  'library.changed': 'changed the library’s settings',
  'library.mended': 'had everything that is derived worked out anew',
  'year.opened': 'opened filing year {label}',
  'year.closed': 'closed filing year {label} in {places} dossiers: {reason}',
  'year.reopened': 'opened filing year {label} again in {places} dossiers: {reason}',
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
  'dossiers.created': 'made {count} in “{name}”, with {folders} folders of the plan',
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
  'place.moved': 'moved “{name}” from “{from}” to “{to}”',
  'place.recoloured': 'changed the colour of “{name}”',
  'place.removed': 'removed the empty place “{name}”',
  'place.closed': 'closed “{name}”: {reason}',
  'place.reopened': 'opened “{name}” again: {reason}',
  'place.locked': 'locked “{name}”: {reason}',
  'place.unlocked': 'unlocked “{name}”: {reason}',
  'papers.locked': 'locked {count}',
  'papers.unlocked': 'unlocked {count}',
  'paper.filed': 'filed “{title}”',
  'paper.versionFiled': 'filed version {number} of “{title}”',
  'paper.versionRestored': 'brought version {from} of “{title}” back as version {number}',
  'paper.renamed': 'renamed “{from}” to “{to}”',
  'paper.noted': 'changed the note on “{title}”',
  'papers.moved': 'moved {count} to “{to}”',
  'papers.crossFiled': 'filed {count} in “{to}” as well, {how}',
  'paper.left': 'took “{title}” out of “{from}”, where it was filed as well',
  'papers.disposed': 'put {count} into the disposal tray',
  'papers.putBack': 'put {count} back from the disposal tray',
  'column.defined': 'defined the column “{name}” for “{place}”',
  'column.changed': 'changed the column “{name}”',
  'column.retyped': 'changed the type of the column “{name}” from {from} to {to}',
  'column.retired': 'retired the column “{name}”',
  'column.restored': 'brought the column “{name}” back',
  'column.reordered': 'changed the order of the columns',
  'list.created': 'made the controlled list “{name}”',
  'list.renamed': 'renamed the controlled list “{from}” to “{to}”',
  'list.imported': 'brought {added} values into the list “{name}”',
  'term.added': 'put “{name}” on the list “{list}”',
  'term.changed': 'changed “{from}” to “{name}” on the list “{list}”',
  'term.retired': 'retired “{name}” on the list “{list}”',
  'term.restored': 'brought “{name}” back on the list “{list}”',
  'term.reordered': 'changed the order of the list “{list}”',
  'term.merged': 'merged “{name}” into “{into}” on the list “{list}”',
  'given.set': 'set what “{name}” gives to its papers',
  'values.set': 'set {columns} of {count}',
  'values.undone': 'undid the setting of {columns} of {count}',
  'label.created': 'made the label “{name}”',
  'label.changed': 'changed the label “{from}” to “{name}”',
  'label.removed': 'removed the label “{name}”',
  'label.merged': 'merged the label “{name}” into “{into}”',
  'label.put': 'put the label “{name}” on {count}',
  'label.takenOff': 'took the label “{name}” off {count}',
  'papers.reordered': 'changed the order of {count} in “{name}”',
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
  'person.switchedOn': 'switched the account of {name} on again',
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
export type JournalAct = keyof typeof journalActs;

/** The details of an entry: flat, so that its canonical form is simple. */
export type JournalDetail = Readonly<Record<string, string | number | boolean | null>>;

/** The journal's head at some time, written outside the database. */
export interface JournalAnchor {
  readonly at: string;
  readonly entryId: number;
  readonly hash: string;
}

/** The state of the anchors, and the result of checking them; null if they were not checked. */
export interface JournalHeld {
  readonly anchors: number;
  readonly last: JournalAnchor | null;
  /** Whether an anchor file is configured. */
  readonly isKept: boolean;
  readonly checked: {
    readonly entries: number;
    /** The first entry that differs. */
    readonly brokenAt: number | null;
    readonly how: 'whole' | 'changed' | 'cutOff';
  } | null;
}

/** An entry in words, as the caller may read it. */
export interface JournalLine {
  readonly id: number;
  readonly at: string;
  readonly who: string;
  readonly words: string;
  /** What this entry can undo: values or access; null for nothing. */
  readonly undoes: 'values' | 'access' | null;
}
