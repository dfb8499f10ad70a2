/** The invented people of the invented Trust. All share one password: it is a demo. */
export const demoPassword = 'high water at saltmarrow';

export const keeper = { name: 'Maren Tolliver', email: 'maren@saltmarrow.example', role: 'secretary, keeper' } as const;

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
    role: 'outside auditor: reads Finance & audit and Suppliers',
  },
  { name: 'Anaïs O’Dowd', email: 'anais@saltmarrow.example', role: 'works engineer: contributor to Works' },
  { name: 'Jory Penhale', email: 'jory@saltmarrow.example', role: 'newly joined: nothing is open to him yet' },
] as const;

export const groups: readonly { readonly name: string; readonly members: readonly string[] }[] = [
  { name: 'Commissioners', members: ['Idris Quaye', 'Ruari Blackwood'] },
  { name: 'Officers', members: ['Petra Lindqvist-Hale', 'Tobias Fenn', 'Oona Marsh', 'Anaïs O’Dowd'] },
  { name: 'Finance & audit committee', members: ['Idris Quaye', 'Tobias Fenn', 'Ruari Blackwood'] },
];
