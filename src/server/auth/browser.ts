import bowser from 'bowser';

/** "Firefox 140 on Windows"; for other programs, the name they send. */
export function browserInWords(agent: string): string {
  const { browser, os } = bowser.parse(agent || ' ');
  if (browser.name === undefined || browser.name === '') return agent.slice(0, 60) || 'unknown';
  const version = browser.version?.split('.')[0];
  return [browser.name, ...(version ? [version] : []), ...(os.name ? ['on', os.name] : [])].join(' ');
}
