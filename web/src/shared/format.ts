import { betweenThousands, dateText } from "./style";

const UNITS = ["B", "kB", "MB", "GB", "TB", "PB", "EB"] as const;

/** Bytes with three figures and a decimal unit, such as `22.4 TB`; how a number is written, not what it is. */
export function bytesText(bytes: number): string {
  return inUnits(bytes, 3);
}

/** The same with six figures, such as `22.4127 TB`, where a value is read off. */
export function exactBytesText(bytes: number): string {
  return inUnits(bytes, 6);
}

function inUnits(bytes: number, figures: number): string {
  const size = Math.abs(bytes);
  if (size < 0.5) return "0 B";
  let step = Math.min(UNITS.length - 1, Math.max(0, Math.floor(Math.log10(size) / 3)));
  if (Number((size / 1000 ** step).toPrecision(figures)) >= 1000 && step < UNITS.length - 1) step += 1;
  const value = size / 1000 ** step;
  const rounded = Number(value.toPrecision(figures));
  const whole = rounded >= 100 ? 3 : rounded >= 10 ? 2 : 1;
  return `${bytes < 0 ? "−" : ""}${value.toFixed(step === 0 ? 0 : figures - whole)} ${UNITS[step]}`;
}

/** A whole number with its thousands apart, as the person likes it. */
export function countText(count: number): string {
  const digits = Math.abs(count)
    .toString()
    .replace(/\B(?=(\d{3})+$)/g, betweenThousands());
  return count < 0 ? `−${digits}` : digits;
}

/** The same with its sign, for changes. */
export function signed(text: string): string {
  return text.startsWith("−") ? text : `+${text}`;
}

/** An ISO date written out, such as `12 June 2027`. */
export function writtenDate(iso: string): string {
  return dateText(iso);
}

/** A share as a whole percentage. */
export function percentText(share: number): string {
  return `${Math.round(share * 100)} %`;
}

/** A length of time as people read it: days and hours, hours and minutes, or seconds where it is less than a minute. */
export function lengthText(seconds: number): string {
  if (seconds > 0 && seconds < 59.5) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  const [days, hours, left] = [Math.floor(minutes / 1440), Math.floor((minutes % 1440) / 60), minutes % 60];
  if (days > 0) return hours > 0 ? `${days} d ${hours} h` : `${days} d`;
  if (hours > 0) return left > 0 ? `${hours} h ${left} min` : `${hours} h`;
  return `${left} min`;
}

/** An amount of money with its currency, to the cent where it is small. */
export function moneyText(amount: number, currency: string): string {
  const size = Math.abs(amount);
  const digits =
    size >= 100 || size < 0.005 ? countText(Math.round(amount)) : amount.toFixed(2).replace("-", "−");
  return `${currency}\u00a0${digits}`;
}

/** In how many of many draws something happens. */
export function chanceText(share: number): string {
  if (share === 0) return "none of the draws";
  if (share >= 0.995) return share === 1 ? "all draws" : "more than 99 % of the draws";
  return share < 0.01 ? "less than 1 % of the draws" : `${percentText(share)} of the draws`;
}
