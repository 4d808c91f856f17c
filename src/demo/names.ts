import type { Random } from './random'

const given =
  `Abel Ada Adaeze Aiko Aino Alba Alif Amara Amina Anders Anouk Anselm Aoife Arda Ari Asta Ayla Ayo Bao Bea Benat Bram Branka Brisa Cai
Calder Camila Cato Chiara Chidi Cyra Dafydd Dalia Dario Davi Dilan Edda Edur Eira Eitan Elif Elio Elke Emeka Emil Enzo Erdem Esi Etta Ewan Fadi Farah Femi
Fenna Finn Freya Gael Gita Goran Greta Halim Hana Hedda Hilde Idris Ike Ilse Imani Ines Ingrid Iona Isak Ivo Jaan Jana Jens Jiro Jolan Jonas Joren Juno Kaia
Kamil Kaya Keiko Kerem Khadija Kit Kofi Laila Lark Lars Leif Lena Leyla Linus Lior Liv Lowri Lucia Luka Maarten Mads Mael Maia Malik Malu Mara Marek
Mattis Mei Merel Mika Milan Mira Nadia Naia Nalini Nanami Neve Niko Nils Noor Nuno Oda Odin Olin Oona Orla Oskar Paola Pavel Pelle Petra Philippa Pia Priya
Quim Rafa Rania Ravi Ren Rhea Rin Roan Rosalind Rui Runa Sadia Sana Sefa Selma Senna Signe Silje Soren Suleiman Sunniva Taavi Tala Tamsin Tariq Teo Thora
Tilda Tobias Tomas Tove Uma Una Vaila Vera Vidar Viggo Wanda Wren Xavi Yael Yara Yuki Yusuf Zane Zara Zeno Zora`.split(
    /\s+/,
  )

const family =
  `Abara Achterberg Adeyemi Aldana Almqvist Amundsen Anker Arslan Asante Aydin Bakkum Balogun Baptiste Barros Bellweather Berglund Bjarnason Blomqvist
Boateng Borg Brandao Brennan Caldera Calloway Castellane Cerny Chandra Chikwe Corrigan Dahl Dalgaard Demir Dhillon Doherty Dunmore Eikeland Eisele Ekholm Erdogan
Espinar Fairbairn Farouk Farrow Fernandes Fjeld Flett Foss Gallowglass Ganesan Garrick Gunnarsdottir Haddo Hakim Halloran Hansson Haugen Hirano Holmgren Horvat
Ibarra Ilves Imai Isbister Iversen Jansma Jarrah Jokinen Jurado Kallas Kapoor Karlsen Kestrel Kirkness Kobayashi Korhonen Kristiansen Kruse Kuznik Lacey Lamont
Larsson Leask Lehtinen Lindqvist Lobo Lund Maduro Magnusson Makinen Marchetti Mattila Mbeki Mendes Mirza Moberg Moreau Mowat Munro Murat Nakahara Naylor Nwosu
Nyberg Oduya Okafor Okonjo Olander Olsen Orkan Ostberg Oyelaran Pakarinen Palacios Papadakis Pell Petrov Pinheiro Quill Quist Rahimi Ramsey Rao Rasmussen Reyes
Rinaldi Rosewarne Saarinen Sadik Salo Samaras Sandvik Scollay Serrano Sigurdsson Sinclair Skaar Solheim Soler Strand Sundberg Suzuki Takala Tanaka
Tessier Thorsen Tulloch Uzun Vargas Velden Vester Vik Vollan Wachira Waldron Westerby Winther Yamada Yildiz Ziegler`.split(
    /\s+/,
  )

const islands = ['Great Skarn', 'Little Skarn', 'Farrow', 'Inner Tarn', 'The Hollins'] as const
const houses =
  'Saltings Lantern Kelp Gannet Breakwater Harbour Samphire Ropewalk Driftwood Tidewater Bellbuoy Fulmar Chandler Causeway Sandbar Puffin Eider Marram Quayside Netloft'.split(
    ' ',
  )

/** A given name; with many draws every name comes up. */
export const givenName = (random: Random) => random.pick(given)

/** A family name; about one in twelve is double. */
export function familyName(random: Random): string {
  const one = random.pick(family)
  return random.below(12) === 0 ? `${one}-${random.pick(family)}` : one
}

/** An address: house name and island. Those away from Great Skarn come by ferry. */
export function address(random: Random): { address: string; ferry: string | null } {
  const island = random.below(10) < 6 ? islands[0] : random.pick(islands.slice(1))
  return { address: `${random.pick(houses)} House, ${island}`, ferry: island === islands[0] ? null : island }
}

/** A telephone number that reaches nobody. */
export const phone = (random: Random) => `000 ${String(random.below(10000)).padStart(4, '0')}`
