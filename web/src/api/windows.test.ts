import { expect, it } from "vitest";
import { ApiError, inWindows } from "./client";

const answer = (data: string, next: boolean) => ({
  data,
  response: new Response(null, { headers: next ? { Link: '</x?after=2>; rel="next"' } : {} }),
});

it("asks for the next pages for as long as an answer names them", async () => {
  const asked: number[] = [];
  const all = await inWindows(({ after, pages }) => {
    asked.push(after / pages);
    return Promise.resolve(answer(`${asked.length}`, asked.length < 3));
  });
  expect(all).toEqual(["1", "2", "3"]);
  expect(asked).toEqual([0, 1, 2]);
});

it("gives nothing where one of the answers is an error", async () => {
  let times = 0;
  const problem = { type: "about:blank", title: "Gone", status: 404, detail: "It is gone." };
  await expect(
    inWindows<string>(() =>
      Promise.resolve(
        ++times === 1
          ? answer("1", true)
          : { error: problem, response: new Response(null, { status: 404 }) },
      ),
    ),
  ).rejects.toEqual(new ApiError(problem));
  expect(times).toBe(2);
});
