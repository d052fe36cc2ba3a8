import { Level } from '../api';

const words: Record<Level, string> = {
  [Level.Low]: 'low',
  [Level.Moderate]: 'moderate',
  [Level.Considerable]: 'considerable',
  [Level.High]: 'high',
  [Level.VeryHigh]: 'very high',
};

/** The risk of one slope. */
export function AvalancheGauge({ slope, level }: { slope: string; level: Level }) {
  const closed = level >= Level.High;
  return (
    <div className={closed ? 'gauge closed' : 'gauge'}>
      {slope}: {words[level]} {closed && 'closed'}
    </div>
  );
}
