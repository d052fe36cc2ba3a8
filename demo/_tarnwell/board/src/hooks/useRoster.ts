import { useEffect, useState } from 'react';
import type { Client, Team } from '../api';

/** The teams, asked for once a minute. */
export function useRoster(client: Client): Team[] {
  const [teams, setTeams] = useState<Team[]>([]);
  useEffect(() => {
    const ask = () => client.teams().then(setTeams, () => undefined);
    void ask();
    const timer = setInterval(ask, 60_000);
    return () => clearInterval(timer);
  }, [client]);
  return teams;
}
