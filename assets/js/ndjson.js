// What a server tells line by line, each line a piece of JSON.
export async function* lines(stream) {
  const reader = stream.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read();
    rest += value ?? "";
    const parts = rest.split("\n");
    rest = parts.pop();
    for (const part of parts) yield JSON.parse(part);
    if (done) return;
  }
}
