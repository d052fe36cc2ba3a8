import { AvalancheGauge, CalloutList, RosterPanel } from './components';
import { Client, Level } from './api';
import { useCallouts } from './hooks/useCallouts';
import { useRoster } from './hooks/useRoster';

interface Props {
  client: Client;
}

/** All of the board. */
export function App({ client }: Props) {
  const { callouts, failure, close } = useCallouts(client);
  const teams = useRoster(client);
  return (
    <>
      <CalloutList callouts={callouts} onClose={close} />
      <aside>
        <RosterPanel teams={teams} />
        <AvalancheGauge slope="Long Gully" level={Level.Considerable} />
      </aside>
      {failure && <p role="alert">{failure}</p>}
    </>
  );
}
