/** Something that reads aloud. */
export interface Voice {
  /** Whether it can read a language. */
  speaks: (language: string) => boolean
  /** Reads a text; onWord hears where each word begins, onEnd that it is over. */
  speak: (text: string, language: string, rate: number, onWord: (at: number, length: number) => void, onEnd: () => void) => void
  pause: () => void
  resume: () => void
  stop: () => void
}

const begins = (voice: { lang: string }, language: string) =>
  voice.lang.toLowerCase().startsWith(language.toLowerCase().slice(0, 2))

/** The browser's own voices. */
function browserVoice(speech: SpeechSynthesis): Voice {
  return {
    speaks: (language) => speech.getVoices().some((v) => begins(v, language)),
    speak(text, language, rate, onWord, onEnd) {
      const words = new SpeechSynthesisUtterance(text)
      words.lang = language
      words.rate = rate
      const own = speech.getVoices().find((v) => begins(v, language))
      if (own) words.voice = own
      words.onboundary = (e) => {
        if (e.name === 'word') onWord(e.charIndex, e.charLength ?? /^\S*/.exec(text.slice(e.charIndex))![0].length)
      }
      words.onend = onEnd
      words.onerror = onEnd
      speech.speak(words)
    },
    pause: () => speech.pause(),
    resume: () => speech.resume(),
    stop: () => speech.cancel(),
  }
}

/** A voice without sound, for trying and testing: it goes from word to word at the pace of one that speaks. */
export function standInVoice(wordMs = 40): Voice {
  let timer: ReturnType<typeof setTimeout> | undefined
  let go: (() => void) | undefined
  return {
    speaks: (language) => ['en', 'es'].includes(language.slice(0, 2)),
    speak(text, _language, rate, onWord, onEnd) {
      const words = [...text.matchAll(/\S+/g)]
      let at = 0
      go = () => {
        const word = words[at++]
        if (!word) {
          go = undefined
          return onEnd()
        }
        onWord(word.index, word[0].length)
        timer = setTimeout(() => go?.(), wordMs / rate)
      }
      go()
    },
    pause: () => clearTimeout(timer),
    resume: () => go?.(),
    stop() {
      clearTimeout(timer)
      go = undefined
    },
  }
}

/** What a tab's store says where the voice without sound is to be taken. */
const choice = 'pine-ledger-voice'

/** The voice of this device; nothing where it has none. */
export function deviceVoice(): Voice | undefined {
  if (sessionStorage.getItem(choice) === 'stand-in') return standInVoice()
  return 'speechSynthesis' in window ? browserVoice(window.speechSynthesis) : undefined
}

/** Whether this device can read a language aloud. Browsers find their voices a moment after the page has come. */
export async function hasVoice(language: string): Promise<boolean> {
  const voice = deviceVoice()
  if (!voice) return false
  for (let tries = 0; tries < 10; tries++) {
    if (voice.speaks(language)) return true
    await new Promise((done) => setTimeout(done, 100))
  }
  return false
}
