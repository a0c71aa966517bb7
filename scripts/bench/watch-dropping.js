// In the page: from the pointer let go until the frame after which the figures of the drawing are other ones.
;(() => {
  window.dropped = []
  let since = 0
  let before = ''
  const figures = () => document.querySelector('.vue-flow__nodes').textContent
  const wait = () => {
    if (!since) return
    if (figures() !== before) {
      const began = since
      since = 0
      // The frame that shows them is painted before the next one begins.
      const channel = new MessageChannel()
      channel.port1.onmessage = () => window.dropped.push(performance.now() - began)
      channel.port2.postMessage(0)
      return
    }
    if (performance.now() - since > 1500) since = 0
    else requestAnimationFrame(wait)
  }
  const canvas = document.querySelector('.canvas')
  canvas.addEventListener(
    'mouseup',
    (event) => {
      since = event.timeStamp
      before = figures()
      requestAnimationFrame(wait)
    },
    true,
  )
})()
