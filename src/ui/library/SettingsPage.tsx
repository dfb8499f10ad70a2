'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import type { z } from 'zod';
import { allFamilies, kindFamilies } from '@/core/files/fileKind';
import { filingYearLabel, filingYearOf, yearLabelStyles, type YearLabelStyle } from '@/core/calendar/filingYear';
import { settingsSchema } from '@/core/library/contract';
import type { LibrarySettings } from '@/core/library/model';
import { allScanLanguages, scanLanguages } from '@/core/reading/scanLanguages';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { ChoiceField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { FilingYears } from './FilingYears';

const months = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
const labelStyleWords: Readonly<Record<YearLabelStyle, string>> = {
  both: 'by both calendar years',
  first: 'by the one in which they start',
  last: 'by the one in which they end',
};
const megabyte = 1_000_000;

/** A number of days as typed; null for an empty field. */
const daysOf = (typed: unknown): number | null =>
  typed === null || String(typed).trim() === '' ? null : Number(typed);

/** What is kept for a number of days. */
const dayFields = [
  [
    'trayDays',
    'Days in the disposal tray',
    'After them papers are destroyed for good; for a week after a change of this, none is. Empty: they stay until someone destroys them.',
  ],
  ['exportDays', 'Days an export is kept', 'For whoever asked for it. Then its file is removed.'],
  [
    'backupEveryDays',
    'Days from one backup to the next',
    'The library backs itself up where a folder is set for it (Library, Backups). Empty: not at all.',
  ],
] as const;

/** The library's own settings; for keepers. */
export function SettingsPage({ settings }: { readonly settings: LibrarySettings }) {
  const router = useRouter();
  const { now } = useSurroundings();
  const change = useAct('library.change', { quiet: true });
  const { filingYears: _years, closedYears: _closed, rootId: _root, ...editable } = settings;
  const form = useForm({
    resolver: zodResolver(settingsSchema),
    values: { ...editable, families: [...editable.families], scanLanguages: [...editable.scanLanguages] },
  });
  const [megabytes, setMegabytes] = useState(String(settings.maxFileBytes / megabyte));
  const { errors } = form.formState;
  const yearStartMonth = useWatch({ control: form.control, name: 'yearStartMonth' });
  const thisYear = filingYearOf(new Date(now), { yearStartMonth, timeZone: settings.timeZone });

  const submit = form.handleSubmit((input: z.output<typeof settingsSchema>) =>
    change.mutate(input, {
      onSuccess: () => {
        say.done('The settings are saved');
        router.refresh();
      },
    }),
  );
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <h1 className="mb-3 font-condensed text-xl">Library settings</h1>
      <div className="grid gap-8 lg:grid-cols-[minmax(0,460px)_minmax(0,1fr)]">
        <form
          onSubmit={(event) => void submit(event)}
          noValidate
          className="rounded-sm border border-line bg-sheet px-5 py-4"
        >
          <TextField label="Name of the library" {...form.register('name')} wrong={errors.name?.message} />
          <TextField
            label="Time zone"
            help="An IANA time zone, such as Europe/London."
            {...form.register('timeZone')}
            wrong={errors.timeZone?.message}
          />
          <ChoiceField
            label="The filing year starts in"
            help="Changing it renames the filing years of every dossier."
            {...form.register('yearStartMonth', { valueAsNumber: true })}
          >
            {months.map((name, index) => (
              <option key={name} value={index + 1}>
                {name}
              </option>
            ))}
          </ChoiceField>
          <ChoiceField
            label="Filing years are written"
            help="The same everywhere: changing it renames them too."
            {...form.register('yearLabels')}
          >
            {yearLabelStyles.map((yearLabels) => (
              <option key={yearLabels} value={yearLabels}>
                {labelStyleWords[yearLabels]}: {filingYearLabel(thisYear, { yearStartMonth, yearLabels })}
              </option>
            ))}
          </ChoiceField>
          <TextField
            label="Largest file, in megabytes"
            inputMode="numeric"
            value={megabytes}
            onChange={(event) => {
              setMegabytes(event.target.value);
              form.setValue('maxFileBytes', Math.round(Number(event.target.value) * megabyte));
            }}
            wrong={errors.maxFileBytes?.message}
          />
          {dayFields.map(([name, label, help]) => (
            <TextField
              key={name}
              label={label}
              help={help}
              inputMode="numeric"
              {...form.register(name, { setValueAs: daysOf })}
              wrong={errors[name]?.message}
            />
          ))}
          <fieldset className="mb-2">
            <legend className="mb-1 text-sm font-semibold">Kinds of file that may be filed</legend>
            {allFamilies.map((family) => (
              <label key={family} className="flex items-center gap-2.5 py-1">
                <input type="checkbox" value={family} {...form.register('families')} className="size-4 accent-brine" />
                {kindFamilies[family]}
              </label>
            ))}
            {errors.families && (
              <p role="alert" className="text-sm text-ember-ink">
                {errors.families.message}
              </p>
            )}
          </fieldset>
          <fieldset className="mb-2">
            <legend className="mb-1 text-sm font-semibold">Languages in which scans are read</legend>
            <p className="text-sm text-soft">
              The fewer, the quicker and the surer. Scans that are read already are read again from the page{' '}
              <Link href="/reading" className="underline">
                Reading
              </Link>
              .
            </p>
            {allScanLanguages.map((language) => (
              <label key={language} className="flex items-center gap-2.5 py-1">
                <input
                  type="checkbox"
                  value={language}
                  {...form.register('scanLanguages')}
                  className="size-4 accent-brine"
                />
                {scanLanguages[language]}
              </label>
            ))}
            {errors.scanLanguages && (
              <p role="alert" className="text-sm text-ember-ink">
                {errors.scanLanguages.message}
              </p>
            )}
          </fieldset>
          {change.error && (
            <p role="alert" className="mb-2 text-sm text-ember-ink">
              {saysOf(change.error)}
            </p>
          )}
          <Button type="submit" look="main" disabled={change.isPending}>
            Save the settings
          </Button>
        </form>
        <div>
          <FilingYears settings={settings} />
        </div>
      </div>
    </main>
  );
}
