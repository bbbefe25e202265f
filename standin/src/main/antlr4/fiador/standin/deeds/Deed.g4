/** The statements about accounts, rights and things. What reads or changes rows is no matter of it. */
grammar Deed;

statement : deed SEMICOLON? EOF ;

deed
  : CREATE USER name (PASSWORD secret)?                                  # createUser
  | CREATE ROLE name                                                     # createRole
  | DROP (USER | ROLE) name                                              # dropPrincipal
  | ALTER USER name PASSWORD secret                                      # setSecret
  | ALTER USER name (LOCK | UNLOCK)                                      # lock
  | ALTER (USER | ROLE) name RENAME TO name                              # rename
  | ALTER USER name DEFAULT ROLE (NONE | name)                           # defaultRole
  | GRANT ROLE name TO who (WITH ADMIN OPTION)?                          # giveRole
  | REVOKE (ADMIN OPTION FOR)? ROLE name FROM who                        # takeRole
  | GRANT POWER TEXT TO name                                             # givePower
  | REVOKE POWER TEXT FROM name                                          # takePower
  | GRANT privileges ON LATER kinds IN place TO who (WITH GRANT OPTION)? # grantLater
  | REVOKE privileges ON LATER kinds IN place FROM who                   # revokeLater
  | GRANT privileges ON target TO who (WITH GRANT OPTION)?               # grant
  | REVOKE (GRANT OPTION FOR)? privileges ON target FROM who             # revoke
  | REFUSE privileges ON target TO who                                   # refuse
  | LIFT privileges ON target FOR who                                    # lift
  | PUT LABEL name ON place names?                                       # putLabel
  | TAKE LABEL name OFF place names?                                     # takeLabel
  | CREATE DATABASE name                                                 # createDatabase
  | CREATE SCHEMA path                                                   # createSchema
  | CREATE TABLE path LEFT column (COMMA column)* RIGHT                  # createTable
  | CREATE TABLE path LEFT column (COMMA column)* RIGHT IN name AS path   # createFarTable
  | CREATE PLACE name AT TEXT (DATABASE name)?                           # createPlace
  | DROP PLACE name                                                      # dropPlace
  | LET who INTO name AS name PASSWORD secret                            # letIn
  | KEEP who OUT OF name                                                 # keepOut
  | CREATE VIEW path (READS AS ASKER)? AS query                          # createView
  | DROP (DATABASE | SCHEMA | TABLE | VIEW) path                         # dropThing
  | ALTER place OWNER TO name                                            # changeOwner
  | SET ROLE (NONE | name (COMMA name)*)                                 # setRole
  | ACT AS name                                                          # actAs
  | ALTER USER name SET TEXT TO (NONE | TEXT (COMMA TEXT)*)              # setAttribute
  | VEIL place ROWS brackets                                             # veilRows
  | VEIL place COLUMN name AS brackets                                   # veilColumn
  | UNVEIL place (ROWS | COLUMN name)                                    # unveil
  | NOTE place TEXT                                                      # note
  | SEAL place                                                           # seal
  | UNSEAL place                                                         # unseal
  ;

secret : HASHED? TEXT ;
privileges : privilege (COMMA privilege)* ;
privilege : word+ (LEFT name (COMMA name)* RIGHT)? ;
kinds : word ;
target : LABEL name | place ;
names : LEFT name (COMMA name)* RIGHT ;
place : SERVER | (DATABASE | SCHEMA | TABLE | VIEW)? path ;
path : name (DOT name)* ;
who : EVERYBODY | name ;
column : name type ;
type : word+ (LEFT NUMBER (COMMA NUMBER)? RIGHT)? ;
query : .+? ;
brackets : LEFT inside* RIGHT ;
inside : brackets | ~(LEFT | RIGHT) ;
/** Words that were names before they were words of the language. */
name : WORD | QUOTED | SEAL | UNSEAL | PLACE | AT | LET | INTO | KEEP | OUT | OF | ACT | ROWS | COLUMN | NOTE | VEIL | UNVEIL | PUT | TAKE | OFF | LABEL ;
/** Words of the language are privileges and types too. */
word : WORD | SEAL | UNSEAL | PLACE | AT | LET | INTO | KEEP | OUT | OF | ACT | ROWS | COLUMN | NOTE | VEIL | UNVEIL | PUT | TAKE | OFF | LABEL | CREATE | ROLE | ALTER | DROP | GRANT | VIEW | SERVER | USER | OPTION ;

PUT : P U T ; TAKE : T A K E ; OFF : O F F ; LABEL : L A B E L ;
SEAL : S E A L ; UNSEAL : U N S E A L ; ACT : A C T ; ROWS : R O W S ; COLUMN : C O L U M N ; NOTE : N O T E ; VEIL : V E I L ; UNVEIL : U N V E I L ; PLACE : P L A C E ; AT : A T ; LET : L E T ; INTO : I N T O ; KEEP : K E E P ; OUT : O U T ; OF : O F ;
ADMIN : A D M I N ; ALTER : A L T E R ; AS : A S ; ASKER : A S K E R ; CREATE : C R E A T E ; DATABASE : D A T A B A S E ;
DEFAULT : D E F A U L T ; DROP : D R O P ; EVERYBODY : E V E R Y B O D Y ; FOR : F O R ; FROM : F R O M ; GRANT : G R A N T ;
HASHED : H A S H E D ; IN : I N ; LATER : L A T E R ; LIFT : L I F T ; LOCK : L O C K ; NONE : N O N E ; ON : O N ;
OPTION : O P T I O N ; OWNER : O W N E R ; PASSWORD : P A S S W O R D ; POWER : P O W E R ; READS : R E A D S ;
REFUSE : R E F U S E ; RENAME : R E N A M E ; REVOKE : R E V O K E ; ROLE : R O L E ; SCHEMA : S C H E M A ;
SERVER : S E R V E R ; SET : S E T ; TABLE : T A B L E ; TO : T O ; UNLOCK : U N L O C K ; USER : U S E R ; VIEW : V I E W ;
WITH : W I T H ;

COMMA : ',' ;
DOT : '.' ;
LEFT : '(' ;
RIGHT : ')' ;
SEMICOLON : ';' ;
QUOTED : '"' ( '""' | ~'"' )+ '"' ;
TEXT : '\'' ( '\'\'' | ~'\'' )* '\'' ;
NUMBER : [0-9]+ ;
WORD : [\p{L}_] [\p{L}\p{Nd}_$]* ;
BLANK : [ \t\r\n]+ -> skip ;
OTHER : . ;

fragment A : [aA] ; fragment B : [bB] ; fragment C : [cC] ; fragment D : [dD] ; fragment E : [eE] ; fragment F : [fF] ;
fragment G : [gG] ; fragment H : [hH] ; fragment I : [iI] ; fragment K : [kK] ; fragment L : [lL] ; fragment M : [mM] ;
fragment N : [nN] ; fragment O : [oO] ; fragment P : [pP] ; fragment R : [rR] ; fragment S : [sS] ; fragment T : [tT] ;
fragment U : [uU] ; fragment V : [vV] ; fragment W : [wW] ; fragment Y : [yY] ;
