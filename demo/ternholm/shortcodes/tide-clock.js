/*
title: Tide clock
about: When the water is high today. The set tides is switched off until the harbour office sends its table.
set: tides
sample: '@{tide-clock port="Inver" /}'
params:
  port: {type: text, label: Port, required: true}
*/

function shortcode({ args, now }) {
  const chance = random(args.port);
  const high = (Math.floor(chance() * 745) + new Date(now).getUTCDate() * 50) % 745;
  const two = (n) => String(n).padStart(2, "0");
  return html`<p class="tide">High water in ${args.port} at <time>${two(Math.floor(high / 60))}:${two(high % 60)}</time></p>`;
}
