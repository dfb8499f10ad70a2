/** What is looked for in the library, in the order in which it is told. */
export const findings = [
  'damaged',
  'unread',
  'lacking',
  'sameContent',
  'sameText',
  'alikeText',
  'untelling',
  'behind',
  'large',
  'emptyFolders',
  'deepFolders',
  'standAlone',
  'linksEnding',
  'noAccess',
  'emptyGroups',
] as const;
export type Finding = (typeof findings)[number];

/** What a finding is called, and what may be done about it. */
export const findingWords: Readonly<Record<Finding, { readonly name: string; readonly about: string }>> = {
  damaged: {
    name: 'Papers whose content is damaged',
    about: 'Its bytes are no longer those that were filed. Bring them back from a backup.',
  },
  unread: {
    name: 'Papers that could not be read',
    about: 'Nothing in them is found. Open one to see why; another version may be readable.',
  },
  lacking: { name: 'Papers without a value that is needed', about: 'They are missing in views that go by it.' },
  sameContent: {
    name: 'Papers with the same content',
    about: 'Keep one, and file it in the other places as well.',
  },
  sameText: {
    name: 'Papers with the same text',
    about: 'Often one paper as two kinds of file, such as a letter and its PDF.',
  },
  alikeText: {
    name: 'Papers whose texts are nearly the same',
    about: 'Often drafts of one paper: they may be its versions. Open one to compare them.',
  },
  untelling: { name: 'Titles that say nothing', about: 'Such as “scan0012” or “document (3)”: nobody will find them.' },
  behind: { name: 'Copies whose original has a newer version', about: 'Open one to take the newer version.' },
  large: { name: 'Very large papers', about: 'More than 100 MB: slow to open for those who are far away.' },
  emptyFolders: { name: 'Empty folders that no plan asks for', about: 'They can be removed.' },
  deepFolders: { name: 'Folders more than six deep', about: 'What lies there is seldom found again.' },
  standAlone: {
    name: 'Places and papers that stand alone',
    about: 'Who can open them is said there, and not by the place above.',
  },
  linksEnding: { name: 'Outside links that end within two weeks', about: 'Whoever still needs one needs a new one.' },
  noAccess: { name: 'People to whom nothing is open', about: 'They have an account and see nothing.' },
  emptyGroups: { name: 'Groups with nobody in them', about: 'What is open to them is open to no one by that.' },
};

/**
 * Texts are nearly the same that share so many of the first bands of their sketches: a pair that is alike to 0.93 shares three
 * quarters of them on average. A band of more contents says nothing of them: all are forms of one kind.
 */
export const nearlySame = { bands: 16, shared: 12, mostInBand: 20 } as const;

/** Above this a paper is very large, in bytes. */
export const largeBytes = 100_000_000;
/** Folders below so many folders are deep. */
export const deepFrom = 6;
/** A link that ends within so many days ends soon. */
export const soonDays = 14;

/**
 * A title that says nothing, as a regular expression of PostgreSQL: what scanners, cameras and programs call a file.
 * Common practice, no source.
 */
export const untellingTitle =
  '^(copy[ _-]*of[ _-]*)?(scan|scanned|img|image|dsc|dscn|photo|picture|doc|document|file|untitled|new|copy|draft|page|fax|screenshot)([ _-]*(document|image|file|page|paper|copy|of|scan))?[ _-]*[(]?[0-9 _-]*[)]?$';

/** How many of a finding there were at the end of a day (ISO 8601). */
export interface FindingCount {
  readonly day: string;
  readonly number: number;
}

/** A finding with its number now and before. */
export interface FoundOf {
  readonly finding: Finding;
  readonly number: number;
  /** Oldest first; at most one a day. */
  readonly before: readonly FindingCount[];
}

/** One thing that was found, and where it is acted on. */
export interface FoundThing {
  readonly name: string;
  /** Where it is, or what is wrong with it. */
  readonly about: string;
  readonly address: string;
}
