// A clock that a test sets: before anything else looks at the time.
{
  const real = Date
  let by = Number(localStorage.getItem('shift') ?? 0)
  globalThis.shift = (ms) => localStorage.setItem('shift', String((by = ms)))
  globalThis.Date = class extends real {
    constructor(...a) {
      if (a.length) super(...a)
      else super(real.now() + by)
    }
    static now() {
      return real.now() + by
    }
  }
}
