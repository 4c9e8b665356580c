/** A length of time as people read it: days and hours, or hours and minutes. */
export function lengthText(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  const days = Math.floor(minutes / 1440);
  const hours = Math.floor((minutes % 1440) / 60);
  if (days > 0) return hours > 0 ? `${days} d ${hours} h` : `${days} d`;
  return hours > 0 ? `${hours} h ${minutes % 60} min` : `${minutes} min`;
}
