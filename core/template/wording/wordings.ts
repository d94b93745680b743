import { tableOf } from '#core/site'
/** What shipped templates say in English, and how that is said in other languages; in the order of `english`. */
export const english = [
  'Skip to the content',
  'Main',
  'Main, again',
  'You are here',
  'In this section',
  'Before and after',
  'Chapters',
  'In this chapter',
  'All rooms',
  'Entries',
  'Notices',
  'Nothing new this week.',
  'Languages',
  'Latest',
] as const

/** By primary language subtag (BCP 47). */
export const wordings = tableOf<readonly string[]>({
  ar: ['انتقل إلى المحتوى', 'القائمة الرئيسية', 'القائمة الرئيسية مرة أخرى', 'أنت هنا', 'في هذا القسم', 'السابق والتالي', 'الفصول', 'في هذا الفصل', 'كل القاعات', 'المدخلات', 'إعلانات', 'لا جديد هذا الأسبوع.', 'اللغات', 'الأحدث'],
  cs: ['Přejít na obsah', 'Hlavní nabídka', 'Hlavní nabídka znovu', 'Zde se nacházíte', 'V této části', 'Předchozí a další', 'Kapitoly', 'V této kapitole', 'Všechny sály', 'Zápisy', 'Oznámení', 'Tento týden nic nového.', 'Jazyky', 'Nejnovější'],
  da: ['Gå til indholdet', 'Hovedmenu', 'Hovedmenu igen', 'Du er her', 'I dette afsnit', 'Forrige og næste', 'Kapitler', 'I dette kapitel', 'Alle rum', 'Indlæg', 'Opslag', 'Intet nyt i denne uge.', 'Sprog', 'Seneste'],
  de: ['Zum Inhalt springen', 'Hauptmenü', 'Hauptmenü, noch einmal', 'Sie sind hier', 'In diesem Bereich', 'Davor und danach', 'Kapitel', 'In diesem Kapitel', 'Alle Räume', 'Einträge', 'Aushänge', 'Nichts Neues in dieser Woche.', 'Sprachen', 'Neuestes'],
  es: ['Saltar al contenido', 'Menú principal', 'Menú principal, otra vez', 'Está aquí', 'En esta sección', 'Anterior y siguiente', 'Capítulos', 'En este capítulo', 'Todas las salas', 'Entradas', 'Avisos', 'Nada nuevo esta semana.', 'Idiomas', 'Lo más reciente'],
  fi: ['Siirry sisältöön', 'Päävalikko', 'Päävalikko uudelleen', 'Olet täällä', 'Tässä osiossa', 'Edellinen ja seuraava', 'Luvut', 'Tässä luvussa', 'Kaikki huoneet', 'Merkinnät', 'Ilmoitukset', 'Ei uutta tällä viikolla.', 'Kielet', 'Uusimmat'],
  fr: ['Aller au contenu', 'Menu principal', 'Menu principal, de nouveau', 'Vous êtes ici', 'Dans cette section', 'Précédent et suivant', 'Chapitres', 'Dans ce chapitre', 'Toutes les salles', 'Billets', 'Annonces', 'Rien de nouveau cette semaine.', 'Langues', 'Dernières nouvelles'],
  he: ['דילוג לתוכן', 'תפריט ראשי', 'תפריט ראשי, שוב', 'אתם כאן', 'במדור זה', 'הקודם והבא', 'פרקים', 'בפרק זה', 'כל החדרים', 'רשומות', 'הודעות', 'אין חדש השבוע.', 'שפות', 'החדשים ביותר'],
  it: ['Vai al contenuto', 'Menu principale', 'Menu principale, di nuovo', 'Ti trovi qui', 'In questa sezione', 'Precedente e successivo', 'Capitoli', 'In questo capitolo', 'Tutte le sale', 'Note', 'Avvisi', 'Niente di nuovo questa settimana.', 'Lingue', 'Ultime novità'],
  ja: ['本文へ移動', 'メインメニュー', 'メインメニュー（再掲）', '現在位置', 'このセクション', '前と次', '章', 'この章', 'すべての展示室', '記事', 'お知らせ', '今週のお知らせはありません。', '言語', '新着'],
  nb: ['Gå til innholdet', 'Hovedmeny', 'Hovedmeny igjen', 'Du er her', 'I denne delen', 'Forrige og neste', 'Kapitler', 'I dette kapittelet', 'Alle rom', 'Innlegg', 'Oppslag', 'Ingenting nytt denne uken.', 'Språk', 'Siste nytt'],
  nl: ['Naar de inhoud', 'Hoofdmenu', 'Hoofdmenu, nogmaals', 'U bent hier', 'In dit onderdeel', 'Vorige en volgende', 'Hoofdstukken', 'In dit hoofdstuk', 'Alle zalen', 'Berichten', 'Mededelingen', 'Deze week niets nieuws.', 'Talen', 'Nieuwste'],
  pl: ['Przejdź do treści', 'Menu główne', 'Menu główne, ponownie', 'Jesteś tutaj', 'W tym dziale', 'Poprzednia i następna', 'Rozdziały', 'W tym rozdziale', 'Wszystkie sale', 'Wpisy', 'Ogłoszenia', 'W tym tygodniu nic nowego.', 'Języki', 'Najnowsze'],
  pt: ['Ir para o conteúdo', 'Menu principal', 'Menu principal, novamente', 'Está aqui', 'Nesta secção', 'Anterior e seguinte', 'Capítulos', 'Neste capítulo', 'Todas as salas', 'Entradas', 'Avisos', 'Nada de novo esta semana.', 'Idiomas', 'Mais recentes'],
  ru: ['Перейти к содержанию', 'Главное меню', 'Главное меню ещё раз', 'Вы здесь', 'В этом разделе', 'Предыдущая и следующая', 'Главы', 'В этой главе', 'Все залы', 'Записи', 'Объявления', 'На этой неделе ничего нового.', 'Языки', 'Новое'],
  sv: ['Hoppa till innehållet', 'Huvudmeny', 'Huvudmeny igen', 'Du är här', 'I denna del', 'Föregående och nästa', 'Kapitel', 'I detta kapitel', 'Alla rum', 'Inlägg', 'Anslag', 'Inget nytt denna vecka.', 'Språk', 'Senaste'],
  uk: ['Перейти до вмісту', 'Головне меню', 'Головне меню ще раз', 'Ви тут', 'У цьому розділі', 'Попередня й наступна', 'Розділи', 'У цьому розділі книги', 'Усі зали', 'Записи', 'Оголошення', 'Цього тижня нічого нового.', 'Мови', 'Найновіше'],
}) // prettier-ignore
