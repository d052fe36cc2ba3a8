import { Callout, Status } from '../api';
import { formatAge, formatValley } from '../format';

interface Props {
  callouts: Callout[];
  onClose: (callout: Callout) => void;
}

const urgentAfter = 10 * 60 * 1000;

function isUrgent(callout: Callout): boolean {
  return callout.status === Status.Open && Date.now() - Date.parse(callout.opened) > urgentAfter;
}

/** The call-outs, with a button to close each. */
export function CalloutList({ callouts, onClose }: Props) {
  if (callouts.length === 0) return <p>All quiet.</p>;
  return (
    <ul>
      {callouts.map((callout) => (
        <li key={callout.id} className={isUrgent(callout) ? 'callout urgent' : 'callout'}>
          {formatValley(callout.valley)}: {callout.note || 'no note'} ({formatAge(new Date(callout.opened))})
          <button onClick={() => onClose(callout)}>closed</button>
        </li>
      ))}
    </ul>
  );
}
