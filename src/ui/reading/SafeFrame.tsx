'use client';

import { useMemo } from 'react';

/** How markup from outside looks; it brings no style of its own. */
const style = `
  :root { color-scheme: light dark }
  body { margin: 0; padding: 20px 24px; font: 15px/1.5 'Hanken Grotesk Variable', 'Liberation Sans', system-ui, sans-serif;
    color: #18211f; background: #fff; overflow-wrap: anywhere }
  @media (prefers-color-scheme: dark) { body { color: #e4eae6; background: #1b2423 } a { color: #8fd0d2 } td, th { border-color: #4a5653 } }
  img { max-width: 100%; height: auto } pre { white-space: pre-wrap } table { border-collapse: collapse }
  td, th { border: 1px solid #c9d1cc; padding: 3px 7px; text-align: left; vertical-align: top } td > p, th > p { margin: 0 }
  blockquote { margin: 0 0 0 12px; padding-left: 12px; border-left: 3px solid #c9d1cc } a { color: #0d4a50 }`;

/**
 * Markup from outside, in a frame that runs nothing, fetches nothing and is of no origin: also if what made it safe should
 * fail. Its links open in a window of their own.
 */
export function SafeFrame({ markup, name }: { readonly markup: string; readonly name: string }) {
  const page = useMemo(
    () =>
      `<!DOCTYPE html><html><head><meta charset="utf-8"><meta http-equiv="content-security-policy"
        content="default-src 'none'; img-src data:; style-src 'unsafe-inline'"><base target="_blank"><style>${style}</style></head>
        <body>${markup}</body></html>`,
    [markup],
  );
  return (
    <iframe
      title={name}
      sandbox="allow-popups allow-popups-to-escape-sandbox"
      referrerPolicy="no-referrer"
      srcDoc={page}
      className="size-full border-0 bg-white"
    />
  );
}
