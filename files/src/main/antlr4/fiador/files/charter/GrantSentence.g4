/** What a role may do: "select (a, b) on every table and view in billing, now and later". */
grammar GrantSentence;

sentence : actions ON target (COMMA target)* (COMMA? when (COMMA? MADE BY name)?)? (WITH GRANT OPTION)? EOF ;

actions : ALL | action (COMMA action)* ;
action : privilege (EXCEPT? columns)? ;
privilege : WORD+ ;
columns : LEFT name (COMMA name)* RIGHT ;

target : EVERY kind (AND kind)* (LABELLED name)? (IN dotted)? # every
       | kind? dotted                                         # single
       ;
kind : WORD WORD? ;
dotted : name (DOT name)* arguments? ;
arguments : LEFT (type (COMMA type)*)? RIGHT ;
type : (WORD | QUOTED)+ (LEFT WORD RIGHT)? ;
name : WORD | QUOTED ;

when : NOW (AND LATER)? | LATER ;

ALL : 'all' ;
ON : 'on' ;
EXCEPT : 'except' ;
EVERY : 'every' ;
AND : 'and' ;
LABELLED : 'labelled' ;
IN : 'in' ;
NOW : 'now' ;
LATER : 'later' ;
WITH : 'with' ;
GRANT : 'grant' ;
OPTION : 'option' ;
MADE : 'made' ;
BY : 'by' ;
COMMA : ',' ;
DOT : '.' ;
LEFT : '(' ;
RIGHT : ')' ;
QUOTED : '"' ( '""' | ~'"' )+ '"' ;
WORD : [\p{L}\p{Nd}_${}*]+ ;
BLANK : [ \t\r\n]+ -> skip ;
OTHER : . ;
