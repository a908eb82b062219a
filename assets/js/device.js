// What is kept on the device: values by a key, none where they are empty or cannot be read.

export function kept(key, otherwise) {
  try {
    return JSON.parse(localStorage.getItem(key)) ?? otherwise;
  } catch {
    return otherwise;
  }
}

export function keep(key, value) {
  if (Object.keys(value).length) localStorage.setItem(key, JSON.stringify(value));
  else localStorage.removeItem(key);
}
