/** The ready-made starts of a note, beside those that the library has of its own. */
export const readyStarts = ['empty', 'agenda', 'minutes', 'letter'] as const;
export type ReadyStart = (typeof readyStarts)[number];

/** Their names, and the markup each begins with. */
export const startNotes: Readonly<Record<ReadyStart, { readonly name: string; readonly markup: string }>> = {
  empty: { name: 'Empty', markup: '<p></p>' },
  agenda: {
    name: 'Agenda',
    markup: `<h1>Agenda</h1><p>Date, time and place:</p>
<ol><li><p>Apologies for absence</p></li><li><p>Declarations of interest</p></li><li><p>Minutes of the last meeting</p></li>
<li><p>Matters arising</p></li><li><p></p></li><li><p>Any other business</p></li><li><p>Date of the next meeting</p></li></ol>`,
  },
  minutes: {
    name: 'Minutes',
    markup: `<h1>Minutes</h1><p>Date, time and place:</p><p>Present:</p><p>Apologies:</p><p>In attendance:</p>
<h2>1. Minutes of the last meeting</h2><p></p><h2>2. Matters arising</h2><p></p><h2>3. </h2><p></p><h2>Actions</h2>
<table><tbody><tr><th><p>What</p></th><th><p>Who</p></th><th><p>By when</p></th></tr>
<tr><td><p></p></td><td><p></p></td><td><p></p></td></tr></tbody></table><p>Date of the next meeting:</p>`,
  },
  letter: {
    name: 'Letter',
    markup: `<p>Our reference:</p><p>Date:</p><p>Name and address</p><p>Dear …,</p><h2>Subject</h2><p></p>
<p>Yours sincerely,</p><p></p><p>Name</p><p>Office</p>`,
  },
};
