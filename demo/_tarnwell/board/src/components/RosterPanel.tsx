import type { Team } from '../api';
import { formatValley } from '../format';

/** Who is free, and who is where. */
export function RosterPanel({ teams }: { teams: Team[] }) {
  const free = teams.filter((team) => !team.out);
  const out = teams.filter((team) => team.out);
  return (
    <section>
      <h2>{free.length} free</h2>
      {[...free, ...out].map((team) => (
        <TeamRow key={team.name} team={team} />
      ))}
    </section>
  );
}

function TeamRow({ team }: { team: Team }) {
  const where = team.out ? `in ${formatValley(team.out)}` : formatValley(team.valley);
  return (
    <div className={team.out ? 'team out' : 'team'}>
      {team.name}, {where}
    </div>
  );
}
