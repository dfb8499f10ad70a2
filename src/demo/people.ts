import type { GroupRole } from '@/core/people/model';

/** The invented people of the invented Trust. All share one password: it is a demo. */
export const demoPassword = 'high water at saltmarrow';

/** The demo's keeper. */
export const keeper = { name: 'Maren Tolliver', email: 'maren@saltmarrow.example', role: 'secretary, keeper' } as const;

/** Everyone else, with what their sign-in shows. */
export const colleagues = [
  { name: 'Idris Quaye', email: 'idris@saltmarrow.example', role: 'chair: reads the board’s papers' },
  {
    name: 'Petra Lindqvist-Hale',
    email: 'petra@saltmarrow.example',
    role: 'harbour master: officer everywhere but Board & committees',
  },
  { name: 'Tobias Fenn', email: 'tobias@saltmarrow.example', role: 'accounts: adds to Finance & audit and Suppliers' },
  { name: 'Oona Marsh', email: 'oona@saltmarrow.example', role: 'tenant liaison: officer for berth tenants' },
  { name: 'Ruari Blackwood', email: 'ruari@saltmarrow.example', role: 'commissioner: reads the board’s papers' },
  {
    name: 'Sunniva Dale',
    email: 'sunniva@saltmarrow.example',
    role: 'outside auditor: reads Finance & audit and Suppliers, the board’s papers without copies',
  },
  { name: 'Anaïs O’Dowd', email: 'anais@saltmarrow.example', role: 'works engineer: contributor to Works' },
  { name: 'Jory Penhale', email: 'jory@saltmarrow.example', role: 'newly joined: nothing is open to him yet' },
  {
    name: 'Isolde Carew',
    email: 'isolde@saltmarrow.example',
    role: 'deputy secretary, a second keeper: approves disposals',
  },
] as const;

/** The colleague who is a keeper as well: disposals take two. */
export const secondKeeper = 'Isolde Carew';

/** Those who do not belong to the Trust. */
export const outsiders: readonly string[] = ['Sunniva Dale'];

interface DemoMember {
  /** A person, or a group that comes before. */
  readonly name: string;
  readonly role?: GroupRole;
  readonly from?: string;
  readonly until?: string;
}
/** The demo's groups and who is in them. */
export const groups: readonly { readonly name: string; readonly members: readonly DemoMember[] }[] = [
  {
    name: 'Commissioners',
    members: [
      { name: 'Idris Quaye', role: 'chair', from: '2023-04-01' },
      { name: 'Ruari Blackwood', from: '2024-04-01', until: '2028-03-31' },
    ],
  },
  {
    name: 'Officers',
    members: [
      { name: 'Petra Lindqvist-Hale' },
      { name: 'Tobias Fenn' },
      { name: 'Oona Marsh' },
      { name: 'Anaïs O’Dowd' },
    ],
  },
  {
    name: 'Finance & audit committee',
    members: [{ name: 'Commissioners' }, { name: 'Tobias Fenn', role: 'secretary' }],
  },
  { name: 'Nominations committee', members: [{ name: 'Idris Quaye', role: 'chair' }] },
];
