import type { Submission } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Field } from '../../parts/field.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { given } from '../../../api/given.js';

/** For what an engine without a link says of a sitemap. */
export function RecordCounts({ submission }: { submission: Submission }) {
  return (
    <FormSheet
      opener="Record counts"
      title={`What ${submission.engine.title} says of it`}
      says={submission.sentAsForPeople}
      send="Record"
      onSend={({ found, listed, trouble }) =>
        api.recordReading({
          params: { id: submission.id },
          body: {
            ...(found === undefined ? {} : { found: Number(found) }),
            ...(listed === undefined ? {} : { listed: Number(listed) }),
            ...given({ trouble }),
          },
        })
      }
    >
      <Field
        label="Found"
        name="found"
        inputMode="numeric"
        pattern="\d+"
        hint="How many addresses it found."
      />
      <Field
        label="Listed"
        name="listed"
        inputMode="numeric"
        pattern="\d+"
        hint="How many of them it lists."
      />
      <Field label="Trouble" name="trouble" hint="What it could not do, in its own words." />
    </FormSheet>
  );
}
