/**
 * A moment as a deadline is shown: "Friday 12 March, 17:00 (Europe/London)".
 *
 * @param iso with its offset from UTC
 * @param timeZone name in the IANA database
 */
export function deadlineText(iso: string, timeZone: string): string {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(new Date(iso));
  const of = (type: Intl.DateTimeFormatPartTypes) => parts.find((part) => part.type === type)?.value ?? '';
  return `${of('weekday')} ${of('day')} ${of('month')}, ${of('hour')}:${of('minute')} (${timeZone})`;
}
