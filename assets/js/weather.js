// A weather file is read by the server line by line; this shows how far it has come.
import { lines } from "./ndjson.js";
import { fresh } from "./started.js";

export function startWeather(root) {
  const form = root.querySelector("[data-weather]");
  if (!form || !fresh(form, "weather")) return;
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    send(form);
  });
}

async function send(form) {
  const box = form.querySelector("[data-progress]");
  const bar = box.querySelector("progress");
  const said = form.querySelector("[data-said]");
  const button = form.querySelector("button");
  said.hidden = true;
  box.hidden = false;
  button.disabled = true;
  try {
    const answer = await fetch(form.action, {
      method: "POST",
      body: new FormData(form),
      headers: { "X-Fragment": "1" },
      credentials: "same-origin",
    });
    if (!answer.headers.get("content-type")?.includes("ndjson")) throw new Error(await plain(answer));
    for await (const step of lines(answer.body)) {
      if (step.read !== undefined) bar.value = step.read;
      if (step.refused) throw new Error(step.refused);
      if (step.done) window.location.assign(step.done);
    }
  } catch (error) {
    said.textContent = error.message;
    said.hidden = false;
    box.hidden = true;
  }
  button.disabled = false;
}

async function plain(answer) {
  const text = await answer.text();
  if (!text.includes("<")) return text;
  const page = new DOMParser().parseFromString(text, "text/html");
  return page.querySelector("[role=alert], main p")?.textContent ?? "The file was not read.";
}
