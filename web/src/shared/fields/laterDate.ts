import { later } from "../later";

/** The calendar is large, and few need it. */
export const DateInput = later(() => import("./DateInput"), "DateInput");
