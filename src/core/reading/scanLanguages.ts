/** The languages in which scans can be read, by the names that the OCR program gives them (ISO 639-3), with ours. */
export const scanLanguages = { eng: 'English', deu: 'German', fra: 'French', spa: 'Spanish' } as const;
export type ScanLanguage = keyof typeof scanLanguages;

/** All of them, in the order in which they are offered. */
export const allScanLanguages = Object.keys(scanLanguages) as [ScanLanguage, ...ScanLanguage[]];
