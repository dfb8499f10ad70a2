/** Every act that the journal knows, with its words; `{…}` parts are filled from the entry's detail. */
export const journalActs = {
  'library.founded': 'founded the library “{name}”',
  'library.changed': 'changed the library’s settings',
  'year.opened': 'opened filing year {label}',
  'series.created': 'made the series “{name}”',
  'series.patternSet': 'set the reference pattern of “{name}” to {pattern}',
  'dossier.created': 'made the dossier “{name}”',
  'dossier.referenceSet': 'changed the reference of “{name}” from {from} to {to}',
  'folder.created': 'made the folder “{name}”',
  'place.renamed': 'renamed “{from}” to “{to}”',
  'place.reordered': 'changed the order in “{name}”',
  'place.moved': 'moved “{name}” from “{from}” to “{to}”',
  'place.recoloured': 'changed the colour of “{name}”',
  'place.removed': 'removed the empty place “{name}”',
  'paper.filed': 'filed “{title}”',
  'paper.versionFiled': 'filed version {number} of “{title}”',
  'paper.versionRestored': 'brought version {from} of “{title}” back as version {number}',
  'paper.renamed': 'renamed “{from}” to “{to}”',
  'paper.noted': 'changed the note on “{title}”',
  'papers.moved': 'moved {count} to “{to}”',
  'papers.disposed': 'put {count} into the disposal tray',
  'papers.putBack': 'put {count} back from the disposal tray',
  'access.changed': 'changed who may open “{name}”',
  'person.invited': 'invited {email}',
  'person.joined': 'joined the library',
  'person.switchedOff': 'switched off the account of {name}',
  'person.switchedOn': 'switched the account of {name} on again',
  'person.keeperSet': 'made {name} a keeper',
  'person.keeperUnset': 'made {name} a keeper no longer',
  'group.created': 'made the group “{name}”',
  'group.changed': 'changed the group “{name}”',
  'group.removed': 'removed the group “{name}”',
} as const;
export type JournalAct = keyof typeof journalActs;

/** Values an entry keeps of its act: flat, so that its hash has one spelling. */
export type JournalDetail = Readonly<Record<string, string | number | boolean | null>>;

/** An entry as people read it; its words have been chosen for the person who asks. */
export interface JournalLine {
  readonly id: number;
  readonly at: string;
  readonly who: string;
  readonly words: string;
}
