import type { Enrolment } from '../../../api/documents.js';
import { api, Told } from '../../api.js';
import { Choice } from '../../parts/choice.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { METHOD_TITLES } from './manual.js';

/** Ends an enrolment at its engine; by hand it is only noted that it is to be ended there. */
function EndEnrolment({ enrolment: { id, name, engine, byHand } }: { enrolment: Enrolment }) {
  return (
    <FormSheet
      opener="End enrolment"
      title={`End ${name}`}
      says={
        byHand
          ? `${engine.title} is a manual engine: end it on its own pages, then say so here. Until then it stays among the next steps.`
          : `${engine.title} forgets the site, and what was submitted with it. The records stay.`
      }
      send={byHand ? 'Note it' : 'End it'}
      onSend={async () => {
        const job = await api.finished(await api.endEnrolment({ params: { enrolment: id } }));
        const problem = job.items.find(({ result }) => result?.problem)?.result?.problem;
        if (problem) throw new Told(problem.detail);
      }}
    >
      <p className="mb-2">Tokens that were placed for it may go once nothing else needs them.</p>
    </FormSheet>
  );
}

/** For what has ended on the pages of an engine that is worked by hand. */
function RecordEnding({ enrolment: { id, name, engine } }: { enrolment: Enrolment }) {
  return (
    <FormSheet
      opener="It has ended"
      title={`${name} has ended`}
      says={`On ${engine.title}’s own pages. It is recorded with your name.`}
      send="Record it"
      onSend={() => api.recordEnding({ params: { enrolment: id } })}
    >
      <p className="mb-2">The records stay.</p>
    </FormSheet>
  );
}

/** Takes back a token that should not have been put on record. */
function ForgetToken({ enrolment: { id, name, placements } }: { enrolment: Enrolment }) {
  return (
    <FormSheet
      opener="Forget token"
      title={`Forget a token of ${name}`}
      says="For a token pasted by mistake. A token that holds the badge stays."
      send="Forget it"
      onSend={async ({ method }) => {
        const chosen = placements.find((one) => one.method === method) ?? placements[0];
        if (chosen) await api.forgetToken({ params: { enrolment: id, method: chosen.method } });
      }}
    >
      <Choice
        label="Method"
        name="method"
        options={placements.map(({ method }) => [method, METHOD_TITLES[method]])}
      />
    </FormSheet>
  );
}

/** Takes back a verdict that somebody recorded by mistake. */
function TakeBackVerdict({ enrolment: { id, name, engine } }: { enrolment: Enrolment }) {
  return (
    <FormSheet
      opener="Take verdict back"
      title={`Take back the verdict on ${name}`}
      says={`For a verdict that ${engine.title} never gave: the newest is removed, with the badge it gave or took.`}
      send="Take it back"
      onSend={() => api.takeBackVerdict({ params: { enrolment: id } })}
    >
      <p className="mb-2">The journal keeps both.</p>
    </FormSheet>
  );
}

/** The way back from an enrolment, a verdict, or from one of its tokens. */
export function Undoing({ enrolment }: { enrolment: Enrolment }) {
  const isAsked = enrolment.step.kind === 'end-there';
  const isRecorded = [enrolment.claim, enrolment.ownership].some((one) => one && one.recordedBy !== null);
  return (
    <div className="mt-2 flex flex-wrap justify-end gap-3">
      {isRecorded && <TakeBackVerdict enrolment={enrolment} />}
      {enrolment.byHand && enrolment.placements.length > 0 && <ForgetToken enrolment={enrolment} />}
      {isAsked ? <RecordEnding enrolment={enrolment} /> : <EndEnrolment enrolment={enrolment} />}
    </div>
  );
}
