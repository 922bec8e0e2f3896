import { useDesk } from "../hooks/use-desk";
import { filled } from "../texts";

const A_DAY = /^(\d{4})-(\d\d)-(\d\d)$/;

/** Days and times as they are read: "1 Mar 2027", as everywhere else; today only the time. */
export function useDays() {
  const { text, months, padded } = useDesk().words.days;
  const said = (year: number, month: number, day: number) =>
    filled(text, {
      day: String(day).padStart(padded ? 2 : 1, "0"),
      month: months[month - 1] ?? "",
      year: String(year).padStart(4, "0"),
    });
  const day = (at: string | Date) => {
    // A day of the calendar is the same wherever it is read; a moment falls on the reader's day.
    const [, year, month, date] = (typeof at === "string" && A_DAY.exec(at)) || [];
    if (year) return said(Number(year), Number(month), Number(date));
    const here = new Date(at);
    return said(here.getFullYear(), here.getMonth() + 1, here.getDate());
  };
  const moment = (at: string | Date) => {
    const date = new Date(at);
    const time = [date.getHours(), date.getMinutes()]
      .map((part) => String(part).padStart(2, "0"))
      .join(":");
    if (date.toDateString() === new Date().toDateString()) return time;
    return `${day(date)}, ${time}`;
  };
  return { day, moment };
}
