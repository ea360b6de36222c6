import base from "./playwright.config";

export default { ...base, testMatch: "shots.ts", retries: 0 };
