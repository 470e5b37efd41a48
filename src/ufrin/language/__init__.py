"""The language of the pages, for every room.

Its catalogues are ``locale/LANGUAGE.po``. It imports nothing of Ufrin.
"""

from ufrin.language.languages import ENGLISH as ENGLISH
from ufrin.language.languages import NAMES as NAMES
from ufrin.language.languages import Language as Language
from ufrin.language.languages import in_use as in_use
from ufrin.language.languages import language as language
from ufrin.language.languages import using as using
from ufrin.language.languages import with_decimals as with_decimals
from ufrin.language.texts import Counted as Counted
from ufrin.language.texts import DateText as DateText
from ufrin.language.texts import Joined as Joined
from ufrin.language.texts import Text as Text
from ufrin.language.texts import Written as Written
from ufrin.language.texts import capitalized as capitalized
from ufrin.language.texts import english as english
from ufrin.language.texts import inside_a_sentence as inside_a_sentence
