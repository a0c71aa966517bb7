// Runs in the page: notes the time from each key going down until the frame with the changed thread has been painted.
;(() => {
  const times = []
  window.times = times
  const shown = () => document.querySelector('[data-knot="distance"] input').value
  const watch = (event) => {
    const before = shown()
    const look = () =>
      requestAnimationFrame(() => {
        if (shown() === before) return look()
        const { port1, port2 } = new MessageChannel()
        port1.onmessage = () => times.push(performance.now() - event.timeStamp)
        port2.postMessage(0)
      })
    look()
  }
  window.addEventListener('keydown', watch, true)
})()
