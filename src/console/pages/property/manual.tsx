import type { Enrolment, Method } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Choice } from '../../parts/choice.js';
import { DayField, dayUnder } from '../../parts/day-field.js';
import { Field } from '../../parts/field.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { given } from '../../../api/given.js';

export const METHOD_TITLES: Readonly<Record<Method, string>> = {
  meta: 'meta tag',
  file: 'file',
  dns: 'DNS record',
};

function asMethod(text: string | undefined): { method?: Method } {
  return text === 'meta' || text === 'file' || text === 'dns' ? { method: text } : {};
}

function methodOptions(methods: readonly Method[]): (readonly [string, string])[] {
  return [
    ['', 'read it from the text'],
    ...methods.map((method) => [method, METHOD_TITLES[method]] as const),
  ];
}

/** For what an engine without a link shows on its own pages: a tag, a value, a file’s name, a TXT line. */
export function PasteToken({ enrolment }: { enrolment: Enrolment }) {
  const { title } = enrolment.engine;
  return (
    <FormSheet
      opener="Paste token"
      title={`What ${title} shows`}
      says="Copy the tag, the value, the file’s name or content, or the TXT line, just as it stands there."
      send="Read it"
      onSend={({ text = '', method }, _, anyway) =>
        api.pasteToken({
          params: { enrolment: enrolment.id },
          body: { text, ...asMethod(method), anyway },
        })
      }
    >
      <label className="mb-3 block text-sm font-semibold">
        Pasted
        <textarea
          name="text"
          required
          rows={4}
          spellCheck={false}
          className="mt-1 w-full rounded-sm border border-faint bg-paper px-2 py-1.5 font-mono text-[13px] font-normal"
        />
      </label>
      <Choice label="Method" name="method" options={methodOptions(enrolment.methods)} />
    </FormSheet>
  );
}

/** For the verdict that an engine without a link showed. */
export function RecordVerdict({ enrolment }: { enrolment: Enrolment }) {
  const { title } = enrolment.engine;
  const isHeld = enrolment.badge === 'held' || enrolment.badge === 'slipping';
  const verdicts = isHeld ? (['withdrawn'] as const) : (['confirmed', 'refused'] as const);
  return (
    <FormSheet
      opener="Record verdict"
      title={`What ${title} said`}
      says="It is recorded with your name and the day of the verdict."
      send="Record"
      onSend={async ({ verdict, method, reason, day }, anyway) =>
        api.recordVerdict({
          params: { enrolment: enrolment.id },
          body: {
            verdict: verdicts.find((one) => one === verdict) ?? verdicts[0],
            ...asMethod(method),
            ...given({ reason }),
            ...(await dayUnder('at', day)),
            ...(anyway ? { anyway } : {}),
          },
        })
      }
    >
      <Choice label="Verdict" name="verdict" options={verdicts.map((one) => [one, one])} />
      {!isHeld && (
        <Choice
          label="Claimed by"
          name="method"
          options={[
            ['', 'the only method that our check sees'],
            ...enrolment.placements.map(({ method }) => [method, METHOD_TITLES[method]] as const),
          ]}
        />
      )}
      <Field label="Reason" name="reason" hint="In the engine’s own words; needed unless it confirmed." />
      <DayField label="Day" name="day" hint="The day of the verdict; leave it empty for today." />
    </FormSheet>
  );
}
