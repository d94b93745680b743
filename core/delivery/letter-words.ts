/** What a line of a host's letter is about. */
export type Told = 'host' | 'port' | 'account' | 'password' | 'folder' | 'publicAddress' | 'protocol'

/**
 * Words that labels are made of, as hosts write them in the languages that templates speak too; without accents, in small
 * letters. Of a label with words of several kinds (“server user name”, “home directory”) the first kind here counts.
 */
const words: Readonly<Record<Told, string>> = {
  password:
    'password pass passphrase passwort kennwort passe contrasena clave wachtwoord senha adgangskode losenord passord haslo heslo salasana пароль סיסמה パスワード',
  account:
    'user username login account userid benutzer benutzername nutzer nutzername anmeldename zugangsname identifiant utilisateur compte usuario cuenta utente gebruiker gebruikersnaam utilizador conta bruger brugernavn anvandare anvandarnamn bruker brukernavn uzytkownik uzytkownika uzivatel uzivatelske kayttaja kayttajatunnus kayttajanimi пользователь пользователя логин користувач користувача логін משתמש ユーザー ユーザー名 ユーザ名 アカウント',
  port: 'port puerto porta poort portti порт ポート ポート番号',
  protocol:
    'protocol protokoll protocole protocolo protocollo protokol encryption verschlusselung connection verbindung chiffrement протокол プロトコル',
  folder:
    'folder directory path root docroot documentroot webroot htdocs verzeichnis startverzeichnis stammverzeichnis webverzeichnis ordner pfad dossier repertoire racine chemin directorio carpeta ruta cartella percorso map pad pasta diretorio mappe mapp katalog sti sokvag sciezka adresar slozka kansio hakemisto polku папка каталог директория תיקייה フォルダ ディレクトリ',
  host: 'server host hostname servername serveradresse serveur hote servidor anfitrion hostitel serwer serwera palvelin vert vard сервер хост сервера שרת サーバー ホスト ホスト名 サーバー名 サーバ名',
  publicAddress:
    'domain website url site homepage webseite domane internetadresse webadresse dominio sitio sito domein domaine domene doman strona domena stranky verkkosivu verkkotunnus сайт домен сайта אתר ドメイン サイト',
}

const kindOf = new Map<string, Told>()
for (const [kind, some] of Object.entries(words) as [Told, string][])
  for (const word of some.split(' ')) if (!kindOf.has(word)) kindOf.set(word, kind)
const kinds = Object.keys(words) as Told[]

/** What has servers, accounts and addresses of its own beside a web space. */
const elsewhere =
  /^(e-?mail|mail\w*|webmail|imap\d?|pop3?|smtp|mx|dns|name-?servers?|ns\d?|mysql|mariadb|postgres\w*|database|datenbank|db|\w*panel|support|helpdesk|invoice|rechnung|customer|kunden\w*|order|ticket|phone|telefon|fax|proxy|billing)$/
/** What says nothing by itself, and belongs to what stands beside it. */
const ofAddress =
  /^(address|adresse|direccion|indirizzo|adres|adresa|endereco|osoite|adress|ip|адрес|アドレス)$/
const ofTransfer = /^(s?ftp|ftps|ftpes|ssh|scp|ip)$/

const longestLabel = 8

/** A label's words, without accents and signs. */
const wordsOf = (label: string): string[] =>
  label
    .normalize('NFD')
    .replace(/(?<=\p{Script=Latin})\p{M}+/gu, '')
    .normalize('NFC')
    .toLowerCase()
    .replace(/ł/g, 'l')
    .split(/[^\p{L}\p{N}-]+/u)
    .flatMap((word) => (/^(e-?mail|name-?servers?)$/.test(word) ? [word] : word.split('-')))
    .filter(Boolean)

/** What a label is about; null for one of something else. */
export function toldBy(label: string): Told | null {
  const some = wordsOf(label)
  if (some.length === 0 || some.length > longestLabel || some.some((word) => elsewhere.test(word)))
    return null
  const found = new Set(some.flatMap((word) => kindOf.get(word) ?? []))
  const [first = null] = kinds.filter((kind) => found.has(kind))
  // “FTP address”, “IP address”; “address of the site” has a word of its own.
  if (first === null && some.some((word) => ofAddress.test(word)))
    return some.some((word) => ofTransfer.test(word)) ? 'host' : null
  // An address where one signs in is none of a server.
  return first === 'account' && found.has('publicAddress') ? null : first
}

/** Whether a label is about a service other than a web space. */
export const isOfAnother = (label: string): boolean => wordsOf(label).some((word) => elsewhere.test(word))
