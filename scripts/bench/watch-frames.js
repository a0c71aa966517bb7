// Runs in the page: the time between frames, until there are enough of them.
;(() => {
  window.frames_ms = []
  let last = performance.now()
  const frame = (now) => {
    window.frames_ms.push(now - last)
    last = now
    if (window.frames_ms.length < 905) requestAnimationFrame(frame)
  }
  requestAnimationFrame(frame)
})()
