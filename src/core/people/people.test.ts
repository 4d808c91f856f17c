import fc from 'fast-check'
import { initialWords, proposedUsername } from './accounts'
import { comparableName, matchRank, sortName, spokenName } from './names'
import { checkPassword, passwordAccepted } from './password-rule'

describe('names', () => {
  test('sort by family name and are spoken given name first', () => {
    expect(sortName(' Ilse ', 'Okonjo-Marsh')).toBe('Okonjo-Marsh, Ilse')
    expect(spokenName('Okonjo-Marsh, Ilse')).toBe('Ilse Okonjo-Marsh')
    expect(spokenName('Plato')).toBe('Plato')
  })
  test('compare without marks, case and doubled space', () => {
    expect(comparableName('Zoë  Åland')).toBe(comparableName('zoe aland'))
    expect(comparableName('Jose')).not.toBe(comparableName('Josefa'))
  })
})

describe('the rule for passwords', () => {
  const own = ['d.munro', 'Dalia Munro', 'Wrackline School']
  test.each(['three grey seals', 'harbour lights at dusk', 'Zk3!vvQ9pLm2', 'correct kelp pony lamp'])(
    '%j is accepted',
    (password) => expect(passwordAccepted(password, own)).toBe(true),
  )
  test.each([
    ['short', 0],
    ['tide table', 0],
    ['password1234', 1],
    ['P@ssw0rd!2026', 1],
    ['aaaaaaaaaaaaaa', 1],
    ['123456789012345', 1],
    ['abcdefghijkl', 1],
    ['letmein!!!!!!!!', 1],
    ['dalia.munro.26', 2],
    ['d.munro d.munro', 2],
    ['', 0],
    ['qwertyqwerty', 1],
    ['1q2w3e4r5t6y', 1],
    ['987654321098', 1],
    ['abcabcabcabc', 1],
    ['1qaz2wsx3edc', 1],
    ['aaaabbbbcccc', 1],
    ['Wrackline2026!', 2],
    ['2026wrackline2027', 2],
  ])('%j fails part %d', (password, part) => expect(checkPassword(password, own)[part]?.met).toBe(false))
  test('a listed word with a year or a mark behind it is common; words that only contain one are not', () => {
    const isListed = (text: string) => text === 'lighthouse'
    const second = (password: string) => checkPassword(password, own, isListed)[1]?.met
    expect(second('lighthouse2026!')).toBe(false)
    expect(second('!!LightHouse!!')).toBe(false)
    expect(second('lighthouse by the pier')).toBe(true)
  })
  test('asks for no odd characters', () => {
    expect(checkPassword('plain words are enough', own).every((c) => c.met)).toBe(true)
  })
})

describe('words of a name', () => {
  test.each([
    ['Okonjo-Marsh, Ilse', 'ilse okonjo', 0],
    ['Okonjo-Marsh, Ilse', 'marsh', 0],
    ['Okonjo-Marsh, Ilse', 'okonjo-m il', 0],
    ['Okonjo-Marsh, Ilse', 'arsh', 1],
    ['Ærøskøbing, Zoë 412 0412 7 Tern', 'zoe 7 tern', 0],
    ['Ærøskøbing, Zoë 412 0412 7 Tern', '041', 0],
    ['Ærøskøbing, Zoë 412 0412 7 Tern', '12', 1],
    ["O'Dell, Niamh", "o'dell", 0],
    ["O'Dell, Niamh", 'dell', 0],
    ['anything at all', '', 0],
    ['anything at all', '   ', 0],
  ])('of %s, typed "%s": %s', (text, typed, found) => expect(matchRank(text, typed)).toBe(found))
  test('that are nowhere are no match', () => {
    expect(matchRank('Okonjo-Marsh, Ilse', 'ilse x')).toBeUndefined()
  })
  test('at the beginning of a word come before those within one', () => {
    expect(matchRank('Bakkum, Ilse', 'ils')).toBe(0)
    expect(matchRank('Bakkum, Nils', 'ils')).toBe(1)
  })

  test('every word of a text finds it, in any order and cut anywhere', () => {
    const word = fc.stringMatching(/^[A-Za-zÀ-ÿ]{1,9}$/)
    fc.assert(
      fc.property(fc.array(word, { minLength: 1, maxLength: 5 }), fc.nat(), fc.nat(), (words, cut, turn) => {
        const turned = [...words.slice(turn % words.length), ...words.slice(0, turn % words.length)]
        const typed = turned.map((w) => w.slice(0, 1 + (cut % w.length))).join(' ')
        expect(matchRank(words.join(' '), typed)).toBe(0)
      }),
    )
  })
})

describe('accounts', () => {
  test.each([
    ['Remi', 'Achterberg', 'r.achterberg'],
    ['Søren', 'Åkerlund-Öst', 's.akerlundost'],
    ['Işıl', 'Yılmaz', 'i.yilmaz'],
    ['مريم', 'الخطيب', ''],
    ['李', 'Wei', 'wei'],
  ])('%s %s is proposed as %j', (given, family, username) =>
    expect(proposedUsername(given, family)).toBe(username),
  )
  test('a made password meets the rule for anybody', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(), { minLength: 18, maxLength: 18 }), (numbers) => {
        let at = 0
        const made = initialWords((below) => (numbers[at++] ?? 0) % below)
        expect(made).toMatch(/^([b-v][aeiou]){3}-([b-v][aeiou]){3}-([b-v][aeiou]){3}$/)
      }),
    )
    expect(passwordAccepted('lomari-tekuso-dimuva', ['s.tvedt', 'Søren Tvedt', 'Wrackline School'])).toBe(
      true,
    )
  })
})
