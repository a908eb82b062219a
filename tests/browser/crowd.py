"""What a first screen holds at once: controls, numbers, words.

What can be used, and what can be read, counted where it stands within the window and is not cut
off by a part that scrolls; what is drawn counts as what is written does.
"""

MOST = (35, 45, 250)  # of any view
COUNT = """() => {
  const shown = (node, boxes) => {
    const within = node instanceof Element ? node : node.parentElement
    if (!within.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true })) return false
    return [...boxes].some((box) => {
      let [left, top, right, bottom] = [0, 0, innerWidth, innerHeight]
      for (let on = within; on; on = on.parentElement) {
        if (getComputedStyle(on).overflow === 'visible') continue
        const clip = on.getBoundingClientRect()
        left = Math.max(left, clip.left); right = Math.min(right, clip.right)
        top = Math.max(top, clip.top); bottom = Math.min(bottom, clip.bottom)
      }
      const [x, y] = [(box.left + box.right) / 2, (box.top + box.bottom) / 2]
      return box.width > 1 && box.height > 1 && x > left && x < right && y > top && y < bottom
    })
  }
  const controls = [...document.querySelectorAll(
    'a[href], button, input:not([type=hidden]), select, textarea, summary, [role=slider]')]
    .filter((one) => shown(one, one.getClientRects()))
  const said = []
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  while (walk.nextNode()) {
    const node = walk.currentNode
    const unseen = node.parentElement.closest('script, style, option, .sr-only, title, desc')
    if (!node.data.trim() || unseen) continue
    const range = document.createRange()
    range.selectNodeContents(node)
    if (shown(node, range.getClientRects())) said.push(node.data)
  }
  for (const one of controls) {
    if (one instanceof HTMLSelectElement) said.push(one.selectedOptions[0]?.text ?? '')
    else if (one instanceof HTMLInputElement) said.push(one.value)
  }
  const words = said.join(' ').split(/\\s+/).filter((w) => /[\\p{L}\\p{N}]/u.test(w))
  return [controls.length, words.filter((w) => /\\d/.test(w)).length, words.length]
}"""
