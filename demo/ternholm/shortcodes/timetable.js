/*
title: Timetable
about: Every sailing of one route, from the first boat to the last; what it encloses stands beneath the table.
sample: '@{timetable from="Aldwick" to="Brannoch" first="06:40" last="20:10"}Every 90 minutes.@{/timetable}'
encloses: true
params:
  from: {type: text, label: From, required: true}
  to: {type: text, label: To, required: true}
  first: {type: text, label: First boat, default: "06:40", help: "A time of day, as in 06:40"}
  last: {type: text, label: Last boat, default: "20:10"}
  every: {type: number, label: Minutes between boats, default: 90}
  takes: {type: text, label: Takes, default: 50 minutes}
*/

function minutes(time) {
  const parts = /^(\d\d?):(\d\d)$/.exec(time);
  if (!parts) throw new Error(time + " is not a time of day; write it as in 06:40");
  return Number(parts[1]) * 60 + Number(parts[2]);
}

function clock(m) {
  return String(Math.floor(m / 60)).padStart(2, "0") + ":" + String(m % 60).padStart(2, "0");
}

function shortcode({ args, inner }) {
  const last = minutes(args.last);
  const boats = [];
  for (let m = minutes(args.first); m < last; m += Math.max(5, args.every)) boats.push(clock(m));
  boats.push(clock(last));
  const hours = new Map();
  for (const boat of boats) hours.set(boat.slice(0, 2), [...(hours.get(boat.slice(0, 2)) || []), boat.slice(3)]);
  return html`<table class="times">
  <caption>${args.from} to ${args.to}, ${boats.length} ${boats.length === 1 ? "sailing" : "sailings"} a day</caption>
  <tr><th scope="row">Hour</th>${[...hours.keys()].map((h) => html`<td>${h}</td>`)}</tr>
  <tr><th scope="row">Minute</th>${[...hours.values()].map((list) => html`<td>${list.join(" ")}</td>`)}</tr>
  <tr><th scope="row">Takes</th><td colspan="${hours.size}">${args.takes}</td></tr>
</table>
${inner.text.trim() && html`<div class="times-note">${inner}</div>`}`;
}
