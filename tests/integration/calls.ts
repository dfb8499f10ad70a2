import { plainFields } from '@/core/columns/contract';
import type { InputOf, OperationName } from '@/core/contract';
import { idHeading } from '@/core/columns/table';
import { defaultMaxFileBytes } from '@/core/library/model';
import { plainView } from '@/core/views/spec';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { createLabel } from '@/server/labels/labels';
import { createGroup } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { furnished, inGroup, plainQuestion } from '../library';

/** Ids that an operation can be called with: all real, or all made up. */
export interface Ids {
  readonly place: string;
  readonly series: string;
  readonly other: string;
  readonly paper: string;
  readonly column: string;
  readonly list: string;
  readonly term: string;
  readonly label: string;
  readonly person: string;
  readonly group: string;
  readonly upload: string;
  readonly view: string;
  readonly session: string;
  readonly token: string;
  readonly link: string;
  readonly meeting: string;
  readonly entry: number;
}

export const made: Ids = {
  place: '00000000-0000-4000-8000-000000000001',
  series: '00000000-0000-4000-8000-000000000002',
  other: '00000000-0000-4000-8000-000000000003',
  paper: '00000000-0000-4000-8000-000000000004',
  column: '00000000-0000-4000-8000-000000000005',
  list: '00000000-0000-4000-8000-000000000006',
  term: '00000000-0000-4000-8000-000000000007',
  label: '00000000-0000-4000-8000-000000000008',
  person: '00000000-0000-4000-8000-000000000009',
  group: '00000000-0000-4000-8000-00000000000a',
  upload: '00000000-0000-4000-8000-00000000000b',
  view: '00000000-0000-4000-8000-00000000000d',
  session: '00000000-0000-4000-8000-00000000000e',
  token: '00000000-0000-4000-8000-00000000000f',
  link: '00000000-0000-4000-8000-000000000010',
  meeting: '00000000-0000-4000-8000-000000000011',
  entry: 987_654_321,
};

/** A series and one of each thing in it that ids are asked by, each with the word in its name. */
export async function oneOfEach(keeper: Actor, word: string) {
  const { series, dossier, year } = await furnished(keeper, `${word} series`);
  const folder = await createFolder(keeper, { parentId: year.id, name: `${word} folder` });
  const paper = await fileBuffer(keeper, folder.id, `${word} pact.txt`, Buffer.from(`The ${word} pact\n`));
  const column = await defineColumn(keeper, {
    ...plainFields,
    name: `${word} remark`,
    type: 'text',
    placeId: series.id,
  });
  const list = await createList(keeper, { name: 'Types', terms: ['Minutes'] });
  const label = await createLabel(keeper, { name: `${word} mark`, hue: 'plum', shared: false });
  const group = await createGroup(keeper, { name: 'Committee' });
  return {
    place: folder.id,
    series: series.id,
    other: dossier.id,
    paper,
    column: column.id,
    list: list.id,
    term: (await listOf(keeper, list.id)).terms[0]?.id ?? '',
    label: label.id,
    group: group.id,
  };
}

/** A view as it is saved. */
export const saved = {
  name: 'Mine',
  purpose: '',
  audience: 'all' as const,
  groupIds: [],
  opensHere: true,
  spec: plainView,
};
const asGrouping = (of: string) => ({ of, by: 'value', order: 'own', direction: 'up' }) as const;

/** An expected paper of a dossier. */
const slotOf = (dossierId: string) => ({ expectationId: made.label, dossierId, startYear: null, meetingId: null });

const table = (id: string): string => Buffer.from(`${idHeading},Remark\r\n${id},changed\r\n`).toString('base64');

/** How each operation is called. The type leaves none out: a new operation without a line here does not compile. */
export const calls: { readonly [N in OperationName]: (ids: Ids) => InputOf<N> } = {
  'access.addresses': ({ place }) => ({ on: { kind: 'place', id: place }, text: 'kea@test.example' }),
  'access.choices': ({ place }) => ({ on: { kind: 'place', id: place }, words: 'o' }),
  'access.forecast': ({ paper, person }) => ({
    on: { kind: 'paper', id: paper },
    follows: true,
    grants: [{ subject: { kind: 'person', id: person }, gives: ['see'], withholds: [] }],
  }),
  'access.matrix': ({ place, person }) => ({ placeId: place, who: 'people', personId: person, show: 'all' }),
  'access.set': ({ place, person }) => ({
    on: { kind: 'place', id: place },
    follows: true,
    revision: 0,
    grants: [{ subject: { kind: 'person', id: person }, gives: ['manage'], withholds: [] }],
    message: null,
  }),
  'access.sheet': ({ place }) => ({ on: { kind: 'place', id: place } }),
  'access.undo': ({ entry }) => ({ entryId: entry }),
  'access.why': ({ paper, person }) => ({ on: { kind: 'paper', id: paper }, personId: person }),
  'access.withdraw': ({ place, person }) => ({
    on: { kind: 'place', id: place },
    subject: { kind: 'person', id: person },
  }),
  'passed.byMe': () => ({}),
  'passed.mark': ({ paper }) => ({ on: [{ kind: 'paper', id: paper }], as: 'takenOut' }),
  'passed.toMe': () => ({}),
  'account.open': () => ({}),
  'common.forecast': ({ place }) => ({ placeId: place, onlyId: null }),
  'common.of': ({ series }) => ({ seriesId: series }),
  'common.seenIn': ({ place }) => ({ placeId: place, seenIn: 'dossier' }),
  'common.set': ({ place }) => ({ placeId: place, onlyId: null }),
  'column.change': ({ column }) => ({ ...plainFields, name: 'Changed', columnId: column, revision: 0 }),
  'column.define': ({ place }) => ({ ...plainFields, name: 'Mine', type: 'text', placeId: place }),
  'column.forecastType': ({ column }) => ({
    columnId: column,
    type: 'number',
    listId: null,
    unit: '',
    decimals: null,
    currency: '',
  }),
  'column.reorder': ({ column }) => ({ columnId: column, beforeId: null }),
  'column.retire': ({ column }) => ({ columnId: column, retired: true, revision: 0 }),
  'column.setType': ({ column }) => ({
    columnId: column,
    type: 'number',
    listId: null,
    unit: '',
    decimals: null,
    currency: '',
    revision: 0,
    addTerms: false,
  }),
  'columns.at': ({ place }) => ({ placeId: place }),
  'details.fields': ({ series }) => ({ seriesId: series }),
  'details.of': ({ other }) => ({ dossierId: other }),
  'details.set': ({ other }) => ({ dossierId: other, details: {}, revision: 0 }),
  'details.setFields': ({ series }) => ({ seriesId: series, fields: [], revision: 0 }),
  'door.list': () => ({ before: null }),
  'dossier.create': ({ series }) => ({ seriesId: series, name: 'Mine', reference: null }),
  'dossier.setReference': ({ other }) => ({ placeId: other, reference: 'X-1', revision: 0 }),
  'dossiers.check': ({ series }) => ({ seriesId: series, text: 'Mine' }),
  'dossiers.make': ({ series }) => ({ seriesId: series, text: 'Mine', onlyGood: true }),
  'expected.ask': ({ other, person }) => ({ ...slotOf(other), personId: person, words: '' }),
  'expected.of': ({ other }) => ({ dossierId: other }),
  'expected.say': ({ other, paper }) => ({ ...slotOf(other), says: { paper } }),
  find: () => ({ words: 'secret' }),
  'folder.create': ({ place }) => ({ parentId: place, name: 'Mine' }),
  'folder.setMeeting': ({ place }) => ({ placeId: place, meetingDay: '2026-07-14', revision: 0 }),
  'gaps.of': ({ other }) => ({ placeId: other }),
  'given.forecast': ({ place, column }) => ({
    placeId: place,
    given: [{ columnId: column, mode: 'fixed', value: 'x', binding: null }],
  }),
  'given.of': ({ place }) => ({ placeId: place }),
  'given.set': ({ place, column }) => ({
    placeId: place,
    given: [{ columnId: column, mode: 'fixed', value: 'x', binding: null }],
    revision: 0,
  }),
  'group.change': ({ group, person }) => ({
    groupId: group,
    name: 'Mine',
    terms: inGroup({ personId: person }),
    revision: 0,
  }),
  'group.forecast': ({ group, person }) => ({ groupId: group, terms: inGroup({ personId: person }) }),
  'group.create': () => ({ name: 'Mine' }),
  'group.remove': ({ group }) => ({ groupId: group }),
  'journal.anchor': () => ({}),
  'health.counts': () => ({}),
  'health.list': () => ({ finding: 'sameContent' }),
  'journal.find': ({ place }) => ({
    subject: 'place',
    id: place,
    group: null,
    personId: null,
    from: null,
    to: null,
    words: '',
    before: null,
  }),
  'journal.held': () => ({ check: true }),
  'journal.of': ({ paper }) => ({ subject: 'document', id: paper, before: null }),
  'label.change': ({ label }) => ({ labelId: label, name: 'Mine', hue: 'plum', revision: 0 }),
  'label.create': () => ({ name: 'Mine for all', hue: 'plum', shared: true }),
  'label.merge': ({ label }) => ({ labelId: label, intoId: '00000000-0000-4000-8000-00000000000c' }),
  'label.papers': ({ label }) => ({ labelId: label }),
  'label.put': ({ label, paper }) => ({ labelId: label, documentIds: [paper], on: false }),
  'label.remove': ({ label }) => ({ labelId: label }),
  'labels.all': () => ({}),
  'labels.on': ({ paper }) => ({ documentIds: [paper] }),
  'library.change': () => ({
    name: 'Mine',
    timeZone: 'UTC',
    yearStartMonth: 1,
    yearLabels: 'both',
    maxFileBytes: defaultMaxFileBytes,
    families: ['pdf'],
    scanLanguages: ['eng'],
    trayDays: null,
    backupEveryDays: null,
    revision: 0,
  }),
  'library.settings': () => ({}),
  'link.make': ({ paper }) => ({
    on: { kind: 'paper', id: paper },
    email: null,
    password: null,
    copies: true,
    until: new Date(Date.now() + 86_400_000).toISOString().slice(0, 10),
    mostOpenings: null,
    message: '',
  }),
  'link.withdraw': ({ link }) => ({ linkId: link }),
  'links.list': () => ({ onId: null }),
  'list.create': () => ({ name: 'Mine', terms: [] }),
  'list.import': ({ list }) => ({ listId: list, form: 'csv', text: 'Mine' }),
  'list.rename': ({ list }) => ({ listId: list, name: 'Mine', revision: 0 }),
  'lists.all': () => ({}),
  'meeting.change': ({ meeting }) => ({ meetingId: meeting, day: '2026-07-14', title: 'Mine', venue: '', revision: 0 }),
  'meeting.remove': ({ meeting }) => ({ meetingId: meeting, revision: 0 }),
  'meetings.make': ({ other }) => ({ dossierId: other, days: ['2026-07-14'], title: 'Mine', venue: '' }),
  'meetings.of': ({ other }) => ({ dossierId: other }),
  'library.readAgain': () => ({ stamp: null, which: 'all' }),
  'library.reading': () => ({}),
  'paper.check': ({ paper }) => ({ documentId: paper, version: 1 }),
  'paper.compare': ({ paper }) => ({ documentId: paper, one: 1, other: 1 }),
  'paper.findIn': ({ paper }) => ({ documentId: paper, phrase: 'pact' }),
  'paper.readAgain': ({ paper }) => ({ documentId: paper }),
  'paper.reading': ({ paper }) => ({ documentId: paper }),
  'paper.addLink': ({ place }) => ({ placeId: place, title: 'Mine', address: 'https://tides.example', remark: '' }),
  'paper.remember': ({ paper }) => ({ documentId: paper, page: 1 }),
  'paper.spots': ({ paper }) => ({ documentId: paper, phrase: 'pact', page: 1 }),
  'paper.docket': ({ paper }) => ({ documentId: paper }),
  'papers.leave': ({ paper, place }) => ({ filings: [{ documentId: paper, placeId: place }] }),
  'paper.takeNewer': ({ paper }) => ({ documentId: paper, revision: 0 }),
  'paper.leave': ({ paper, place }) => ({ documentId: paper, placeId: place }),
  'paper.rename': ({ paper }) => ({ documentId: paper, title: 'Mine', revision: 0 }),
  'paper.restoreVersion': ({ paper }) => ({ documentId: paper, number: 1, revision: 0 }),
  'note.begin': ({ paper }) => ({ documentId: paper }),
  'note.create': ({ place }) => ({ placeId: place, title: 'A note', start: { ready: 'agenda' } }),
  'note.foresee': ({ paper }) => ({ documentId: paper }),
  'note.fromPaper': ({ paper }) => ({ documentId: paper, as: 'version' }),
  'note.keep': ({ paper }) => ({ documentId: paper }),
  'note.setStart': ({ paper }) => ({ documentId: paper, isStart: true }),
  'note.write': ({ paper }) => ({ documentId: paper, round: 1, after: 0, changes: ['AAA='] }),
  'notes.starts': () => ({}),
  'paper.alike': ({ paper }) => ({ documentId: paper }),
  'paper.fileAttachment': ({ paper }) => ({ documentId: paper, attachment: 1 }),
  'paper.setCover': ({ paper }) => ({ documentId: paper, cover: { ofPaper: paper } }),
  'paper.setRemark': ({ paper }) => ({ documentId: paper, remark: 'Mine', revision: 0 }),
  'backups.made': () => ({}),
  'bookmark.put': ({ paper }) => ({ on: { kind: 'paper', ref: paper }, name: '' }),
  'bookmark.remove': ({ paper }) => ({ on: { kind: 'paper', ref: paper } }),
  'bookmark.reorder': ({ paper }) => ({ on: { kind: 'paper', ref: paper }, before: null }),
  'bookmarks.mine': () => ({}),
  'desk.arrange': () => ({ order: ['news'], folded: [], leftOut: [] }),
  'desk.arrangement': () => ({}),
  'desk.figures': () => ({}),
  'desk.keepers': () => ({}),
  'desk.lacking': () => ({}),
  'desk.lately': () => ({}),
  'desk.news': () => ({ whose: 'all' }),
  'papers.actable': ({ paper }) => ({ documentIds: [paper], act: 'move' }),
  'papers.copy': ({ paper, other }) => ({ documentIds: [paper], toIds: [other], onSameName: 'number' }),
  'papers.copyForecast': ({ paper, other }) => ({ documentIds: [paper], toIds: [other] }),
  'papers.crossFile': ({ paper, other }) => ({ documentIds: [paper], toIds: [other], kind: 'opening' }),
  'papers.forecastFiling': ({ paper, other }) => ({ documentIds: [paper], placeId: other, kind: 'opening' }),
  'papers.dispose': ({ paper }) => ({ documentIds: [paper] }),
  'papers.destroy': ({ paper }) => ({ documentIds: [paper] }),
  'papers.disposed': () => ({ words: '', order: 'newest', most: 100 }),
  'papers.lately': () => ({}),
  'papers.move': ({ paper, other }) => ({ documentIds: [paper], toId: other }),
  'papers.moveForecast': ({ paper, other }) => ({ documentIds: [paper], toId: other }),
  'papers.notCopiable': ({ paper }) => ({ documentIds: [paper] }),
  'papers.putBack': ({ paper }) => ({ documentIds: [paper] }),
  'papers.putInPlaces': ({ paper, other }) => ({ homes: { [paper]: other } }),
  'papers.rows': ({ paper }) => ({ documentIds: [paper] }),
  'papers.setCells': ({ paper, column }) => ({ cells: [{ documentId: paper, columnId: column, text: 'Mine' }] }),
  'papers.setLock': ({ paper }) => ({ documentIds: [paper], locked: true }),
  'papers.setValues': ({ paper, column }) => ({ documentIds: [paper], values: { [column]: 'Mine' } }),
  'papers.values': ({ paper }) => ({ documentIds: [paper] }),
  'people.list': () => ({}),
  'person.dropSecondStep': ({ person }) => ({ personId: person }),
  'person.invite': () => ({ name: 'Mine', email: 'mine@test.example', keeper: true }),
  'person.setActive': ({ person }) => ({ personId: person, active: false }),
  'person.setOutside': ({ person }) => ({ personId: person, outside: true }),
  'person.setKeeper': ({ person }) => ({ personId: person, keeper: true }),
  'place.children': ({ place }) => ({ placeId: place }),
  'place.move': ({ place, other }) => ({ placeId: place, toId: other }),
  'place.moveForecast': ({ place, other }) => ({ placeId: place, toId: other }),
  'place.nextReference': ({ series }) => ({ seriesId: series }),
  'place.open': ({ place }) => ({ placeId: place }),
  'place.seriesOf': ({ place }) => ({ placeId: place }),
  'place.recolour': ({ place }) => ({ placeId: place, colour: 'plum' }),
  'place.remove': ({ place }) => ({ placeId: place }),
  'place.rename': ({ place }) => ({ placeId: place, name: 'Mine', revision: 0 }),
  'place.reorder': ({ place }) => ({ placeId: place, beforeId: null }),
  'place.setStandstill': ({ place }) => ({ placeId: place, locked: true, closed: true, reason: 'Mine', revision: 0 }),
  'places.choose': () => ({ words: 'secret', capability: 'add' }),
  'places.series': () => ({}),
  'hand.papers': () => ({}),
  'hand.pickUp': ({ paper }) => ({ documentIds: [paper] }),
  'hand.putDown': ({ paper }) => ({ documentIds: [paper] }),
  'search.forget': () => ({ words: null, keep: true }),
  'search.inside': () => ({ words: 'secret' }),
  'search.recent': () => ({}),
  'search.remember': () => ({ words: 'mine' }),
  'search.why': ({ paper }) => ({ documentIds: [paper], words: 'secret', among: 'everything' }),
  'session.end': ({ session }) => ({ sessionId: session }),
  'plan.forecast': ({ series }) => ({ seriesId: series, folders: [] }),
  'plan.of': ({ series }) => ({ seriesId: series }),
  'plan.set': ({ series }) => ({ seriesId: series, folders: [], revision: 0 }),
  'rack.open': ({ series }) => ({ seriesId: series }),
  'series.create': () => ({ name: 'Mine', referencePattern: null }),
  'series.setPattern': ({ series }) => ({ placeId: series, referencePattern: 'M-##', revision: 0 }),
  'standstill.forecast': ({ paper }) => ({ on: { kind: 'paper', id: paper }, locked: true, closed: false }),
  'table.apply': ({ place, paper }) => ({ placeId: place, form: 'csv', content: table(paper), onlyGood: true }),
  'table.preview': ({ place, paper }) => ({ placeId: place, form: 'csv', content: table(paper) }),
  'term.add': ({ list }) => ({ listId: list, name: 'Mine', parentId: null }),
  'term.change': ({ term }) => ({ termId: term, name: 'Mine', otherNames: [], parentId: null }),
  'term.merge': ({ term }) => ({ termId: term, intoId: made.term }),
  'term.mergeForecast': ({ term }) => ({ termId: term, intoId: made.term }),
  'term.reorder': ({ term }) => ({ termId: term, beforeId: null }),
  'term.retire': ({ term }) => ({ termId: term, retired: true }),
  'token.create': () => ({ name: 'Mine', capabilities: ['manage'], until: '2000-01-01' }),
  'token.withdraw': ({ token }) => ({ tokenId: token }),
  'upload.answer': ({ upload }) => ({ uploadId: upload, onSameName: 'both' }),
  'upload.cancel': ({ upload }) => ({ uploadId: upload }),
  'upload.outcome': ({ upload }) => ({ uploadId: upload }),
  'uploads.alike': () => ({ sha256s: ['0'.repeat(64)] }),
  'uploads.settle': ({ upload }) => ({ uploadIds: [upload] }),
  'uploads.tell': ({ upload, person }) => ({ uploadIds: [upload], personIds: [person] }),
  'upload.redirect': ({ upload, other }) => ({ uploadIds: [upload], placeId: other }),
  'uploads.foresee': ({ place }) => ({ placeId: place, files: [{ relativePath: '', title: 'Secret pact' }] }),
  'uploads.known': ({ upload }) => ({ uploadIds: [upload] }),
  'uploads.unfinished': () => ({}),
  'values.choices': () => ({ kind: 'document', words: 'secret' }),
  'values.missing': ({ place }) => ({ placeId: place }),
  'values.suggest': ({ paper }) => ({ documentIds: [paper] }),
  'values.undo': ({ entry }) => ({ entryId: entry }),
  'papers.reorder': ({ paper }) => ({ documentIds: [paper], beforeId: null }),
  'place.look': ({ place }) => ({ placeId: place }),
  'view.change': ({ view }) => ({ ...saved, viewId: view, revision: 0 }),
  'view.crossTable': ({ place, column }) => ({
    placeId: place,
    below: true,
    filter: '',
    conditions: [],
    down: asGrouping(column),
    across: asGrouping('kind'),
    measures: [],
  }),
  'view.open': ({ place, column, label, other }) => ({
    ...plainQuestion,
    placeId: place,
    conditions: [{ how: 'none', parts: [{ of: 'place', anyOf: [other.slice(0, 8)] }] }],
    groupings: [asGrouping(column)],
    counts: [column, 'label', 'openTo', 'place'],
    sorts: [{ of: column, direction: 'up' }],
    limit: label.length,
  }),
  'view.remove': ({ view }) => ({ viewId: view, revision: 0 }),
  'view.reorder': ({ view }) => ({ viewId: view, beforeId: null }),
  'view.save': ({ place }) => ({ ...saved, placeId: place }),
  'views.at': ({ place }) => ({ placeId: place }),
  'year.open': () => ({ startYear: 1999 }),
  'year.openForecast': () => ({ startYear: 1999 }),
  'year.closeForecast': () => ({ startYear: 1999 }),
  'year.setClosed': () => ({ startYear: 1999, closed: true, reason: '' }),
};
