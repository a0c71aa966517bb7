// Runs in the page: notes the time from each key going down until the frame with the changed figure has been painted.
// The figure is that of the element named by `window.watched`, or the thread's distance.
;(() => {
  const times = []
  window.times = times
  const shown = () => {
    const element = document.querySelector(window.watched ?? '[data-knot="distance"] input')
    return element.value ?? element.textContent
  }
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
