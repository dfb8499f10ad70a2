/** Keeps how a person likes their screen, in this browser; the page is made anew with it. */
export function setPreference(name: 'density' | 'scheme', value: string): void {
  document.cookie = `embrin-${name}=${value}; path=/; max-age=31536000; samesite=lax`;
  window.location.reload();
}
