/** What an item of an agenda is for. */
export const itemKinds = ['decision', 'information', 'noting'] as const;
export type ItemKind = (typeof itemKinds)[number];
/** The kinds in words, as agendas print them. Common practice, no source. */
export const itemKindWords: Readonly<Record<ItemKind, string>> = {
  decision: 'For decision',
  information: 'For information',
  noting: 'To note',
};

/** How items are numbered, level by level. */
export const numberings = ['figures', 'letters', 'capitals'] as const;
export type Numbering = (typeof numberings)[number];
/** The first numbers of each style, as people choose them. */
export const numberingWords: Readonly<Record<Numbering, string>> = {
  figures: '1, 1.1, 1.1.1',
  letters: '1, (a), (i)',
  capitals: 'A, 1, (a)',
};

/** In what part somebody is at a meeting: who is a member counts for the quorum. */
export const attendeeParts = ['member', 'inAttendance'] as const;
export type AttendeePart = (typeof attendeeParts)[number];
/** The parts in words, as minutes print them. Common practice, no source. */
export const attendeePartWords: Readonly<Record<AttendeePart, string>> = {
  member: 'Member',
  inAttendance: 'In attendance',
};

/** What somebody has answered to a meeting. */
export const attendanceAnswers = ['coming', 'apologies'] as const;
export type AttendanceAnswer = (typeof attendanceAnswers)[number];
/** The answers in words, after a name. */
export const attendanceAnswerWords: Readonly<Record<AttendanceAnswer, string>> = {
  coming: 'Comes',
  apologies: 'Sends apologies',
};

/** Whether somebody who was expected at a meeting was there. */
export const presences = ['present', 'apologies', 'absent'] as const;
export type Presence = (typeof presences)[number];
/** The same in words, after a name. Common practice, no source. */
export const presenceWords: Readonly<Record<Presence, string>> = {
  present: 'Present',
  apologies: 'Apologies',
  absent: 'Absent',
};

/** Items lie in items that lie in items, and no deeper. */
export const deepest = 3;
/** An agenda has so many items at most. */
export const mostItems = 300;
/** And an item so many papers. */
export const mostItemPapers = 100;
/** An item takes so many minutes at most: a whole day. */
export const mostMinutes = 1440;
