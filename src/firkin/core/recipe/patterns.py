"""The patterns of statements: letters of pieces in a row, and what they say."""

import re
from collections.abc import Callable

from firkin.core.recipe.statements import Statements
from firkin.core.recipe.telling import Found

_NAMED = r"S?[(]?[SN]?[)]?[MQ][(]?S?[)]?"


def _compiled(pattern: str) -> re.Pattern[str]:
    return re.compile(pattern.replace("NAMED", _NAMED))


#: What is tried, in order: a pattern of letters (see pieces.LETTERS), and what it does.
PATTERNS: tuple[tuple[re.Pattern[str], Callable[[Statements, Found], None]], ...] = tuple(
    (_compiled(pattern), does)
    for pattern, does in (
        (r"I", Statements._of_it),
        (r"Y", Statements._trial),
        (r"^c[^,]*,x.*", Statements._not),
        (r"x(?![:,])[^,!;:]*", Statements._not),
        (r"v", Statements._unclear),
        (r"(?P<M>[MQ])[bt(]*(?P<k>k)[^,]*", Statements._kills),
        (r"k[^,A]*?[SN]|(?<![gb@y])[SN][oPW]{0,2}k", Statements._kills_so_many),
        (r"(?P<S>S)[MQoW]*j[o]?(?P<T>S)[MQ]*", Statements._instead),
        (r"j[o]?(?P<S>S)[MQ]*[,&d]*(?P<T>S)[MQ]*", Statements._instead),
        (r"j[o]?[SMQ]+", Statements._instead_of),
        (r"NW=(?P<A>A)$", Statements._defines),
        (r"(?<=[MQ])f(?P<W>W)(?!o?A)|(?<![Ao][MQ])(?<=[MQ])f(?P<W2>W)", Statements._purpose),
        (r"[TH]", Statements._when),
        (r"h[bydMQo!]*?(?P<S>S|N(?=$|[&,!:)CdAy]))[MQ]*", Statements._on_hand),
        (r"K[bh]+(?P<S>S)(?=$|[,.)&])", Statements._on_hand),
        (r"(?P<A>A)(?P<l>[lpE])[o:]+[MQ](?:[,&]+[MQ])+", Statements._each),
        (r"(?:[MQ][,&+]+)+[MQ][,:(]*(?P<A>A)(?P<l>[lp])(?=$|[,)])", Statements._each),
        (r"(?P<A>A)[(]?[)]?[oPQWM]{0,2}l", Statements._dose),
        (r"l[WMPQ:bd]*(?P<A>A)", Statements._dose),
        (r"L[^A,]{0,3}@(?P<A>A)", Statements._dose),
        (r"D[bP:o]*(?P<A>A)", Statements._dose),
        (r"L", Statements._loads),
        (r"\$[^$,]{0,2}l|l[^,A]{0,3}\$", Statements._cost_per_load),
        (r"\$", Statements._cost),
        (r"G", Statements._who),
        (r"^[fptg]+(?P<A>A)[oPQWB]*[:,]", Statements._titled),
        (r"^(?P<A>A)o?[PB]+(?:[:,]|$)", Statements._titled),
        (r"^[fptg]+(?P<A>A)(?=[Ad])", Statements._titled),
        (r"^(?P<A>A)o?Q$", Statements._sized_title),
        (r"^(?P<A>A)o?P+(?=i)", Statements._titled),
        (r"^(?P<A>A):|^[(](?P<A2>A)[)][:,]?", Statements._titled),
        (r"^(?P<S>S)(?P<M>[MQ]):(?!A(?:,|$))(?=[^A]*A[^A]*A)", Statements._makes_strength),
        (r"^f(?P<S>S)i(?P<T>S)", Statements._from_stock),
        (r"^(?P<A>A)o?[MQWP]+:(?=[^A]*A[^A]*A)", Statements._titled),
        (r"^[PQB_]+[,(|f:o]*(?P<A>A)[)B]*(?=$|[:,])", Statements._sized_title),
        (r"^[MQWPB]*[WP][MQWPB]*,(?P<A>A):(?=[^A]*A[^A]*A)", Statements._titled),
        (r"^[WPBf:,]*W[WPBf:,]*P[,:(]*(?P<A>A)[)]?$", Statements._sized_title),
        (r"^(?:[WTBPN]+[:,])?M(?P<Q>Q)[,:]?(?P<A>A)$", Statements._gel_title),
        (r"^[MQW]*P[^:A]*S[)]?:", Statements._titled),
        (r"^S[MQ]P+:", Statements._makes_strength),
        (r"(?P<S>S)[oi](?P<A>A)(?![oSMQKJ])(?:[=yb,(:]*(?P<B>A)(?!o?N?[MQ]))?", Statements._share_of),
        (r"(?P<S>S)o(?P<A>A)(?P<B>B)?(?=oM)", Statements._share_of),
        (r"(?<=[MQ])t[dX](?=$|[,)])", Statements._purpose_of),
        (r"y(?P<A>A)(?!o?N?[SMQW])", Statements._recap),
        (r"NAMED[uC](?P<R>R)w[MQ]", Statements._ratio),
        (r"[Cu][btof]*(?P<R>R)(?:w?(?P<M>M)?)(?![&t+w,:]*[MQ])", Statements._cut),
        (r"(?P<R>R)[,:oPwfibd]*NAMED[&t+w,:/=|]+NAMED(?:[&t+w,:/]+NAMED)?", Statements._ratio),
        (r"NAMED(?P<R>R)[w&t,]*NAMED", Statements._ratio),
        (r"NAMED[&t+w,:/]+NAMED(?:[&t+w,:/]+NAMED)?[^MQAN]*?(?P<R>R)", Statements._ratio),
        (r"(?P<R>R)NAMED,?NAMED", Statements._ratio),
        (r"(?P<R>e)[o:]*NAMED(?:[&t+w,]+NAMED)+", Statements._ratio),
        (r"u?(?P<F>F)oKw?S?(?P<M>[MQ])", Statements._part_of_bottle),
        (r"AKo(?=S?[MQ])|AK(?=[MQ]$)", Statements._container_of),
        (r"[it@f]?(?P<A>A)[WM]?[KJ]", Statements._container),
        (r"[KJ][hbO:,]*(?P<A>A)(?=$|[(,&])|[KJ][(](?P<A2>A)[,)]", Statements._container),
        (r"(?P<A>A)?[KJ](?!o)", Statements._container),
        (
            r"(?<!A)(?<!Ao)(?<!AS)(?<!AoS)(?P<M>M)[:=,(]?(?P<A>A)o(?P<S>S)(?=$|[&,+tw!)])",
            Statements._so_much_of_strength,
        ),
        (r"(?<!g)(?<!gb)(?P<A>A)o(?P<S>S)(?=$|[&,+tw!)])", Statements._of_strength),
        (r"(?P<A>A)E", Statements._of_each),
        (
            r"(?<!A)(?<!Ao)(?<!AS)(?<!AoS)(?P<M>[MQ])S?[)]?[,:|b=(]*[qu]+[tq:|b]*(?P<A>A)(?!o?N?[SMQ]|,?w)m?",
            Statements._top_up,
        ),
        (r"(?<!A)(?<!Ao)(?<!AS)(?<!AoS)(?P<M>[MQ])S?[)]?[,:|b=]*[qr](?![wMQo])(?P<A>A)?", Statements._top_up),
        (r"[urq]+[urqPom]*t?(?P<A>A)m?[,B]*wS?(?P<M>[MQ])", Statements._top_up),
        (
            r"(?:(?<=[MQA])|(?<=[MQA],)|(?<=[MQA],.)|(?<=[MQA],..))t(?P<A>A)m?w[W]?S?(?P<M>[MQ])(?![,:(]*A)",
            Statements._top_up,
        ),
        (r"[urq]+[urqPom]*[wb:]?S?(?P<M>[MQ])(?:t(?P<A>A)m?)?", Statements._top_up_with),
        (r"(?<!A)(?<!Ao)(?<!AS)(?<!AoS)(?P<M>[MQ])tu(?P<A>A)?[KPm_]*(?=$|[,)])", Statements._top_up),
        (r"wS?(?P<M>[MQ]),*u[t]*(?P<A>A)", Statements._top_up),
        (r"(?<!A)(?<!Ao)(?<!AS)(?<!AoS)(?P<M>[MQ])[,:|(]*t[q]?(?P<A>A)(?!o?N?[SMQ])m?", Statements._top_up),
        (r"u[tqb]*(?P<A>A)(?!o?N?[SMQ])m?", Statements._top_up_bare),
        (r"(?<!A)(?<!Ao)(?<!AS)(?<!AoS)(?P<M>[MQ])[,:]*(?P<g>g)(?P<A>A)(?!o?N?[SMQ])", Statements._to_make),
        (r"p(?P<A>A)(?!o?N?[SMQ])", Statements._for_each),
        (r"g[:b]*(?P<M>M)(?P<S>S)", Statements._active),
        (r"g[bo@WPfr:,]*(?P<S>S)(?:(?P<M>M)(?=P|$|[^oMQA])|(?=P|$|[^oMQ]))", Statements._makes_strength),
        (r"g[bo@Wfr:,]*(?P<A>A)[o@](?P<S>S)(?!o?N?[MQ])", Statements._makes_both),
        (r"g[bo@Wfr:,]*(?P<A>A)(?:o?[MQP]*P)?(?!o?N?[SM])", Statements._makes_size),
        (r"(?<!A)(?<!Ao)(?P<S>S)(?P<M>M)?P+", Statements._makes_strength),
        (r"(?<!A)(?<!Ao)(?P<S>S)Q(?=[:,]|$)", Statements._strong_gel),
        (r"P[b,(o@]*(?P<S>S)(?![oMQ])", Statements._makes_strength),
        (r"[yb]+(?P<S>S)(?P<M>M)?(?=$|[,).P&!])", Statements._comes_to),
        (r"=(?P<S>S)(?=$|[,)P])", Statements._makes_strength),
        (r"A.*M,(?P<S>S)$", Statements._ended_by_strength),
        (r"=(?P<A>A)[oWMQ]*P", Statements._makes_size),
        (r"(?P<A>A)B|B[ob]*(?P<A2>A)", Statements._makes_size),
        (r"f(?P<A>A)(?=$|[),])", Statements._makes_size),
        (r"(?<!A)(?P<A>A)P(?=i|$)", Statements._makes_size),
    )
)
