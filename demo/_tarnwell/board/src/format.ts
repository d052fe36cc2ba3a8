const minute = 60_000;

/** Writes how long ago something was, as the board says it. */
export function formatAge(then: Date, now: Date = new Date()): string {
  const minutes = Math.floor((now.getTime() - then.getTime()) / minute);
  if (minutes < 1) return 'just now';
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** Names a valley with a capital. */
export const formatValley = (valley: string): string => valley.charAt(0).toUpperCase() + valley.slice(1);
