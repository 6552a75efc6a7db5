// Towpath: the rules of a game in C#, an opponent by Arvek through its C interface.
//
//     mcs -unsafe Towpath.cs && LD_LIBRARY_PATH=build/lib mono Towpath.exe
//
// A towpath of eleven places; Teal's horse stands on the first, Amber's on the last. In turn each walks one, two or three
// places towards the other, but not past it or onto it. Who cannot walk has lost.
using System;
using System.Runtime.InteropServices;
using System.Text;
using System.Text.RegularExpressions;

static unsafe class Towpath
{
    const int Places = 11;

    struct Position { public int Teal, Amber, ToMove; }

    [UnmanagedFunctionPointer(CallingConvention.Cdecl)] delegate void Initial(IntPtr user, Position* position);
    [UnmanagedFunctionPointer(CallingConvention.Cdecl)] delegate int Asked(IntPtr user, Position* position);
    [UnmanagedFunctionPointer(CallingConvention.Cdecl)] delegate uint Moves(IntPtr user, Position* position, uint* moves, uint room);
    [UnmanagedFunctionPointer(CallingConvention.Cdecl)] delegate void Play(IntPtr user, Position* position, uint move);
    [UnmanagedFunctionPointer(CallingConvention.Cdecl)] delegate int Outcome(IntPtr user, Position* position, int* payoffs);
    [UnmanagedFunctionPointer(CallingConvention.Cdecl)] delegate long Evaluate(IntPtr user, Position* position, int player);
    [UnmanagedFunctionPointer(CallingConvention.Cdecl)] delegate void MoveText(IntPtr user, Position* position, uint move, byte* text, uint room);

    [StructLayout(LayoutKind.Sequential)]
    struct Rules  // struct arvek_rules
    {
        public uint Interface, PositionBytes;
        public int Players, Threads;
        [MarshalAs(UnmanagedType.LPStr)] public string Name;
        public IntPtr User;
        public Initial InitialPosition;
        public Asked PlayerToMove;
        public Moves GenerateMoves;
        public Play Play;
        public Outcome Outcome;
        public Evaluate Evaluate;
        public IntPtr Hash, OrderHint, GenerateForcingMoves, ChanceIsNext, GenerateEvents, PositionText, ReadPosition;
        public MoveText MoveText;
        public IntPtr Drawing, PlayerName;
        public int DrawAtOccurrence, MostPayoff;
        public double UnitsPerDoubling;
        public IntPtr RepetitionKey, EquivalenceHash, GenerateQuietMoves, GenerateSufficientMoves, CountMoves, PlayNothing,
            NothingIsSound, PayoffBounds, DrawEvent, RandomMove, PlayOut;
        public uint ViewBytes;
        public IntPtr View, Sample, ViewText, ReadMove, Coordinates, Board, Preference, Salience, LevelChange, ActNames, Act,
            ReadPatterns, Patterns, Quantities, Suggesters;
        public uint PatternCount, QuantityCount, SuggesterCount;
    }

    [DllImport("arvek")] static extern IntPtr arvek_last_error();
    [DllImport("arvek")] static extern void arvek_free(IntPtr text);
    [DllImport("arvek")] static extern int arvek_game_from_rules(ref Rules rules, out IntPtr game);
    [DllImport("arvek")] static extern void arvek_game_close(IntPtr game);
    [DllImport("arvek")] static extern int arvek_check(IntPtr game, double seconds, ulong seed, out int faults, IntPtr none);
    [DllImport("arvek")] static extern int arvek_session_open(IntPtr game, string position, out IntPtr session);
    [DllImport("arvek")] static extern void arvek_session_close(IntPtr session);
    [DllImport("arvek")] static extern int arvek_session_play(IntPtr session, string move);
    [DllImport("arvek")] static extern int arvek_decide(IntPtr session, string opponent, ulong nodes, double seconds, int plays, out IntPtr json);

    static int Room(Position* p) { return p->Amber - p->Teal - 1; }

    static void Need(int status)
    {
        if (status != 0) throw new Exception(Marshal.PtrToStringAnsi(arvek_last_error()));
    }

    static int Main()
    {
        var rules = new Rules { Interface = 3, PositionBytes = (uint)sizeof(Position), Name = "towpath" };
        rules.InitialPosition = (user, p) => { p->Amber = Places - 1; };
        rules.PlayerToMove = (user, p) => p->ToMove;
        rules.GenerateMoves = (user, p, moves, room) =>
        {
            var count = (uint)Math.Min(3, Room(p));
            for (uint i = 0; i < count && i < room; ++i) moves[i] = i + 1;
            return count;
        };
        rules.Play = (user, p, move) =>
        {
            if (p->ToMove == 0) p->Teal += (int)move; else p->Amber -= (int)move;
            p->ToMove = 1 - p->ToMove;
        };
        rules.Outcome = (user, p, payoffs) =>
        {
            if (Room(p) > 0) return 0;
            payoffs[p->ToMove] = -1;
            payoffs[1 - p->ToMove] = 1;
            return 1;
        };
        rules.Evaluate = (user, p, player) => 0;
        rules.MoveText = (user, p, move, text, room) =>
        {
            var bytes = Encoding.ASCII.GetBytes("walk-" + move + "\0");
            for (int i = 0; i < bytes.Length && i < room; ++i) text[i] = bytes[i];
        };
        IntPtr game, session, json;
        int faults;
        Need(arvek_game_from_rules(ref rules, out game));
        Need(arvek_check(game, 1.0, 0, out faults, IntPtr.Zero));
        Console.WriteLine("faults in the rules: " + faults);
        Need(arvek_session_open(game, null, out session));
        Need(arvek_session_play(session, "walk-1"));
        Need(arvek_decide(session, "standard@5", 0, 0.0, 1, out json));
        var why = Marshal.PtrToStringAnsi(json);
        arvek_free(json);
        Console.WriteLine("why: " + Regex.Replace(why.Substring(0, why.IndexOf("]") + 1), "\\s+", " "));
        arvek_session_close(session);
        arvek_game_close(game);
        GC.KeepAlive(rules);
        return faults == 0 ? 0 : 1;
    }
}
